import { useState } from 'react'
import { address, type LayerRef } from '@/api/client'
import type { Chosen } from '@/project/chosen'
import { edit } from '@/project/connection'
import { calledOf, kindOf } from '@/project/kinds'
import { inOrder } from '@/project/ordering'
import { layersOf, pictureMark, useProject } from '@/project/project'
import { useSession } from '@/project/session'

/** What the details speak of: scenes, or a scene and what is chosen in it. */
export function Heading({ chosen: { ids, scenes, refs } }: { chosen: Chosen }) {
  const within = useSession((s) => s.chosenLayers.length > 0)
  const [typed, setTyped] = useState<string | null>(null)
  const [only] = scenes
  if (scenes.length > 1 || !only)
    return (
      <div className="border-b hairline px-4 py-3">
        <h2 className="font-heading text-[15px] font-semibold">{scenes.length} scenes</h2>
        <p className="text-[12px] text-soft">What you change here changes in all of them. A dash stands where they differ.</p>
      </div>
    )
  const [scene = ''] = ids
  const accept = () => {
    if (typed !== null && typed !== only.name) void edit({ edit: 'set_scenes', ids, name: typed.trim() })
    setTyped(null)
  }
  const first = inOrder(only.layers).find(([, l]) => l.kind === 'photo')?.[0]
  const shown = within ? refs : first ? [{ scene, layer: first }] : []
  return (
    <div className="flex items-start gap-3 border-b hairline px-4 py-3">
      {shown.length === 1 && shown[0] && <Thumbnail of={shown[0]} />}
      <div className="min-w-0 flex-1">
        <input
          id="scene-name"
          aria-label="Name of the scene"
          value={typed ?? only.name ?? ''}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={accept}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          className="-ml-1 w-full truncate rounded bg-transparent px-1 font-semibold hover:bg-deep focus:bg-card"
        />
        <p className="text-[12px] text-soft">{shown.length === 1 && shown[0] ? <Layer scene={scene} of={shown[0]} /> : shown.length > 1 ? `${shown.length} layers of it` : null}</p>
      </div>
    </div>
  )
}

/** A layer's picture; nothing, where it shows none. */
function Thumbnail({ of }: { of: LayerRef }) {
  const project = useProject((s) => s.id)
  const layer = useProject((s) => layersOf(s.document, of.scene)[of.layer])
  const media = useProject((s) => (layer?.kind === 'photo' ? s.document.media?.[layer.media] : undefined))
  return layer?.kind === 'photo' && media ? <img src={address.thumbnail(project, layer.media, pictureMark(media))} alt="" className="size-11 rounded object-cover" /> : null
}

/** What a layer is: of a photo its size and how sharp it is at its closest, of others their kind and what they are called. */
function Layer({ scene, of }: { scene: string; of: LayerRef }) {
  const layer = useProject((s) => layersOf(s.document, of.scene)[of.layer])
  const media = useProject((s) => (layer?.kind === 'photo' ? s.document.media?.[layer.media] : undefined))
  const finding = useProject((s) => s.findings[scene]?.photos.find((p) => p.layer === of.layer))
  const name = useProject((s) => calledOf(s, of))
  const kind = layer && kindOf(layer)?.label
  if (!media) return name === kind ? kind : `${kind}: ${name}`
  return (
    <>
      {media.width} × {media.height} px
      {finding && (
        <>
          {' · '}
          <span className={finding.soft ? 'font-semibold text-rowan' : ''} title="Film pixels one picture pixel is spread over at the closest moment of the move; above 1 it begins to look soft">
            largest use {finding.largest_use.toFixed(2)}×
          </span>
          {finding.soft && <> — sharp up to {Math.round(finding.sharp_zoom * 100)} % of this zoom</>}
          {finding.sharp_zoom >= 1.1 && <> — may come {finding.sharp_zoom.toFixed(1)}× closer</>}
        </>
      )}
    </>
  )
}
