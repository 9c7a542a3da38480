import { useState } from 'react'
import { address, type Photo, type Scene } from '@/api/client'
import { inOrder } from '@/project/ordering'
import { edit } from '@/project/connection'
import { pictureMark, useProject } from '@/project/project'

/** What the details speak of, and how sharp it is at its closest. */
export function Heading({ ids, scenes }: { ids: string[]; scenes: Scene[] }) {
  const project = useProject((s) => s.id)
  const media = useProject((s) => s.document.media)
  const findings = useProject((s) => s.findings)
  const [typed, setTyped] = useState<string | null>(null)
  const [only] = scenes
  if (scenes.length > 1 || !only)
    return (
      <div className="border-b hairline px-4 py-3">
        <h2 className="font-heading text-[15px] font-semibold">{scenes.length} scenes</h2>
        <p className="text-[12px] text-soft">What you change here changes in all of them. A dash stands where they differ.</p>
      </div>
    )
  const photo = inOrder(only.layers)
    .map(([, l]) => l)
    .find((l): l is Photo => l.kind === 'photo')
  const picture = photo && media?.[photo.media]
  const finding = findings[ids[0] ?? '']?.photos[0]
  const accept = () => {
    if (typed !== null && typed !== only.name) void edit({ edit: 'set_scenes', ids, name: typed.trim() })
    setTyped(null)
  }
  return (
    <div className="flex items-start gap-3 border-b hairline px-4 py-3">
      {photo && <img src={address.thumbnail(project, photo.media, pictureMark(picture || undefined))} alt="" className="size-11 rounded object-cover" />}
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
        {picture && (
          <p className="text-[12px] text-soft">
            {picture.width} × {picture.height} px
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
          </p>
        )}
      </div>
    </div>
  )
}
