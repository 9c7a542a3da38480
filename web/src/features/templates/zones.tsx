import { MoreHorizontal } from 'lucide-react'
import { useState } from 'react'
import { address, type Scene, type Template } from '@/api/client'
import { PicturePicker } from '@/features/pictures'
import { edit } from '@/project/connection'
import { inOrder } from '@/project/ordering'
import { pictureMark, useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { IconButton } from '@/ui/button'
import { Menu } from '@/ui/menu'

type Held = { zone: string; layer: string | null; number: number; name: string; takes: string; help: string; media: string | null; words: string | null }

/** The zones that a scene shows, and what is in each. */
function heldBy(scene: Scene | undefined, template: Template): Held[] {
  const layers = Object.entries(scene?.layers ?? {})
  return inOrder(template.zones).flatMap(([zone, z], index) => {
    const [key, layer] = layers.find(([, l]) => (l.kind === 'photo' || l.kind === 'text') && l.zone === zone) ?? []
    if (!layer && scene?.backdrop_zone !== zone) return []
    const media = layer?.kind === 'photo' ? layer.media : (scene?.backdrop?.media ?? null)
    const words = layer?.kind === 'text' ? (layer.text ?? []).map((s) => s.text).join('') : null
    return [{ zone, layer: key ?? null, number: index + 1, name: z.name || `Zone ${index + 1}`, takes: z.takes ?? 'picture', help: z.help ?? '', media: words === null ? media : null, words }]
  })
}

/** The picture in a zone, to be dragged and sized on the easel: within its window, or by its views. */
function reach(scene: string, layer: string): void {
  const record = useProject.getState().document.scenes?.[scene]?.layers?.[layer]
  const windowed = record?.kind === 'photo' && record.window
  useSession.setState({ chosenLayers: [{ scene, layer }], target: windowed ? 'picture' : 'layer', looking: windowed ? 'live' : 'views' })
}

/** Drop zones of a scene: filled, swapped by dragging or from a menu, emptied. */
export function Zones({ scene, template }: { scene: string; template: Template }) {
  const record = useProject((s) => s.document.scenes?.[scene])
  const [picking, setPicking] = useState<string | null>(null)
  const [over, setOver] = useState<string | null>(null)
  const held = heldBy(record, template)
  const fill = (zone: string, what: string | null) => void edit({ edit: 'fill_zones', scene, fills: { [zone]: what } })
  const swap = (first: string, second: string) => first !== second && void edit({ edit: 'swap_zones', first: { scene, zone: first }, second: { scene, zone: second } })
  const pictured = held.filter((h) => h.words === null)
  return (
    <ul aria-label="Zones" className="space-y-1">
      {held.map((h) =>
        h.words === null ? (
          <li
            key={h.zone}
            draggable
            onDragStart={(e) => e.dataTransfer.setData('text/plain', h.zone)}
            onDragOver={(e) => {
              e.preventDefault()
              setOver(h.zone)
            }}
            onDragLeave={() => setOver(null)}
            onDrop={(e) => {
              e.preventDefault()
              setOver(null)
              swap(e.dataTransfer.getData('text/plain'), h.zone)
            }}
            className={`flex items-center gap-2 rounded-lg p-1 ${over === h.zone ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}
          >
            <PictureZone held={h} onPick={() => setPicking(h.zone)} />
            <Menu
              trigger={
                <IconButton label={`More for ${h.name}`}>
                  <MoreHorizontal size={15} />
                </IconButton>
              }
              entries={[
                { label: 'Another picture…', run: () => setPicking(h.zone) },
                ...pictured.filter((o) => o !== h).map((o) => ({ label: `Swap with ${o.name}`, run: () => swap(h.zone, o.zone) })),
                ...(h.layer ? [{ label: 'Slide and size the picture in it', run: () => reach(scene, h.layer ?? '') }] : []),
                { label: 'Empty it', run: () => fill(h.zone, null) },
              ]}
            />
          </li>
        ) : (
          <li key={h.zone}>
            <TextZone held={h} onSay={(words) => fill(h.zone, words)} />
          </li>
        ),
      )}
      {picking && <PicturePicker title="Fill the zone" action={() => 'Fill it'} onPick={([id]) => id && fill(picking, id)} onClose={() => setPicking(null)} />}
    </ul>
  )
}

function PictureZone({ held, onPick }: { held: Held; onPick: () => void }) {
  const project = useProject((s) => s.id)
  const media = useProject((s) => (held.media ? s.document.media?.[held.media] : undefined))
  return (
    <button
      type="button"
      title={held.help || undefined}
      aria-label={`${held.name}: ${media?.placeholder ? 'empty' : (media?.name ?? 'empty')}`}
      onClick={onPick}
      className="flex min-w-0 flex-1 items-center gap-2 text-left"
    >
      <span className="grid h-9 w-14 shrink-0 place-items-center overflow-hidden rounded bg-deep">
        {media?.placeholder ? <span className="font-heading text-[17px] text-soft">{media.placeholder}</span> : null}
        {held.media && media && !media.placeholder && <img src={address.thumbnail(project, held.media, pictureMark(media))} alt="" draggable={false} className="h-full w-full object-cover" />}
      </span>
      <span className="min-w-0">
        <span className="block truncate text-[12.5px] font-medium">
          {held.number}. {held.name}
        </span>
        <span className="block truncate text-[12px] text-soft">{media?.placeholder ? 'empty' : media?.name}</span>
      </span>
    </button>
  )
}

function TextZone({ held, onSay }: { held: Held; onSay: (words: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null)
  const leave = () => {
    if (typed !== null && typed !== held.words) onSay(typed)
    setTyped(null)
  }
  return (
    <label title={held.help || undefined} className="block p-1">
      <span className="text-[12.5px] font-medium">
        {held.number}. {held.name}
      </span>
      <textarea
        rows={1}
        value={typed ?? held.words ?? ''}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={leave}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Escape') setTyped(null)
        }}
        className="mt-0.5 block w-full resize-y rounded-lg border hairline bg-card px-2 py-1 [field-sizing:content]"
      />
    </label>
  )
}
