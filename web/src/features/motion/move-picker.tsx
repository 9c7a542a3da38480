import { control } from '@/project/controls'
import { Link2 } from 'lucide-react'
import { useState } from 'react'
import type { Edit, EditOf } from '@/api/client'
import { fits } from '@/features/pictures'
import type { DialogProps } from '@/project/dialogs'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { reachedLayers, useSession } from '@/project/session'
import { isText } from '@/project/chosen'
import { Running } from '@/project/running'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { NumberField } from '@/ui/number'
import { OwnEntry } from '@/ui/own-entry'
import type { Owner } from '@/features/parameters'
import { SIDES, type Slot } from './uses'

const RULES = [
  ['same', 'All alike'],
  ['alternate', 'Alternating'],
  ['around', 'Sides in turn'],
  ['vary', 'Varied'],
] as const
const TITLES = { move: 'Moves', entrance: 'Entrances', exit: 'Exits', camera: 'Camera moves' }
/** Shares of the scene's time at which a tile shows a move; a still one stands at the second. */
const SHOWN = { move: [0, 0.17, 0.33, 0.5, 0.67, 0.83, 1], entrance: [0, 0.03, 0.06, 0.09, 0.13, 0.18, 0.25], exit: [0.75, 0.82, 0.87, 0.91, 0.94, 0.97, 1] }

export const LayerMovePicker = ({ onClose }: DialogProps) => <MovePicker slot="move" onClose={onClose} />
export const EntrancePicker = ({ onClose }: DialogProps) => <MovePicker slot="entrance" onClose={onClose} />
export const ExitPicker = ({ onClose }: DialogProps) => <MovePicker slot="exit" onClose={onClose} />
export const CameraMovePicker = ({ onClose }: DialogProps) => <MovePicker slot="move" camera onClose={onClose} />

/** All moves on one's own layers: seen before one is put on them. */
function MovePicker({ slot, camera, onClose }: DialogProps & { slot: Slot; camera?: boolean }) {
  const [to] = useState((): Owner[] => (camera ? useSession.getState().chosenScenes.map((scene) => ({ scene, layer: null })) : reachedLayers()))
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? '')
  const own = useProject((s) => s.document.moves)
  const [words, setWords] = useState('')
  const [chosen, setChosen] = useState<string | null>(null)
  const [rule, setRule] = useState<NonNullable<EditOf<'use_move'>['rule']>>('same')
  const [side, setSide] = useState<(typeof SIDES)[number][0]>('left')
  const [seed, setSeed] = useState(1)
  const [stagger, setStagger] = useState(0)
  const [strength, setStrength] = useState(1)
  const [linked, setLinked] = useState(true)
  // Moves of letters are for texts; they come first there.
  const lettered = !camera && to.length > 0 && to.every(isText)
  const kind = camera ? 'camera' : slot === 'move' ? 'move' : 'entrance'
  const all = [
    ...Object.entries(own ?? {}).map(([id, m]) => ({ id, label: m.name, exit_label: '', help: 'Saved in this project', kind: m.kind, sided: m.sided, spread: m.spread ?? null })),
    ...catalogue().moves,
  ]
    .map((m) => ({ ...m, label: (slot === 'exit' && m.exit_label) || m.label }))
    .filter((m) => m.kind === kind && fits(words, m.label, m.help) && (m.spread === null || lettered))
  if (lettered) all.sort((a, b) => Number(b.spread !== null) - Number(a.spread !== null))
  const here = to.filter((t) => t.scene === scene)
  const use = (move: string, on: Owner[]): Edit => ({ edit: 'use_move', to: on, slot, move, use: { side, strength }, rule, seed, stagger, linked })
  const put = async (move: string) => {
    onClose()
    await edit(use(move, to))
  }
  const spec = all.find((m) => m.id === chosen)
  const things = camera ? 'camera' : to.length === 1 ? 'layer' : 'layers'
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      wide
      title={TITLES[camera ? 'camera' : slot]}
      description={
        slot === 'move'
          ? 'Motion relative to where a thing stands: it fits any picture. Point at one to see it run on your own scene.'
          : 'With a length of its own, whatever the scene’s. Point at one to see it run.'
      }
    >
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <input aria-label="Find a move" placeholder="Find by word" value={words} onChange={(e) => setWords(e.target.value)} className="h-8 w-40 rounded-lg border hairline bg-card px-2.5" />
        <Choice
          label={slot === 'move' ? 'Towards' : 'From'}
          value={side}
          choices={SIDES.map(
            ([id, arrow]) =>
              [
                id,
                <span key={id} role="img" aria-label={id}>
                  {arrow}
                </span>,
              ] as const,
          )}
          onSet={setSide}
        />
        {to.length > 1 && <Choice label="From layer to layer" value={rule} choices={RULES} onSet={setRule} />}
        {to.length > 1 && rule === 'vary' && (
          <span className="w-40">
            <NumberField {...control('move.seed')} value={seed} slider={false} onSet={setSeed} />
          </span>
        )}
      </div>
      <ul aria-label={TITLES[camera ? 'camera' : slot]} className="grid max-h-[50vh] grid-cols-[repeat(auto-fill,minmax(178px,1fr))] gap-2.5 overflow-y-auto p-1">
        {all.map((m) => (
          <li key={m.id} className="relative">
            <button
              type="button"
              aria-pressed={chosen === m.id}
              onClick={() => setChosen(m.id)}
              onDoubleClick={() => void put(m.id)}
              className={`group w-full rounded-xl p-1.5 text-left ${chosen === m.id ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}
            >
              <Running scene={scene} edits={[use(m.id, here.length ? here : to)]} shares={SHOWN[camera ? 'move' : slot]} on={chosen === m.id} />
              <span className="mt-1 block font-semibold">{m.label}</span>
              <span className="block text-[12px] leading-snug text-soft">{m.help}</span>
            </button>
            {own?.[m.id] && (
              <OwnEntry
                name={m.label}
                naming="New name of the move"
                removing={`Delete ${m.label}; what it moves keeps it as keyframes, entrances and exits by it go`}
                onRename={(name) => void edit({ edit: 'set_move', id: m.id, name })}
                onRemove={() => void edit({ edit: 'remove_move', id: m.id })}
              />
            )}
          </li>
        ))}
      </ul>
      <div className="mt-4 flex flex-wrap items-center gap-4">
        {slot === 'move' && (
          <span className="w-56">
            <NumberField {...control('move.strength')} value={strength} onSet={setStrength} onTry={setStrength} />
          </span>
        )}
        {to.length > 1 && (
          <span className="w-64">
            <NumberField {...control('move.stagger')} value={stagger} onSet={setStagger} />
          </span>
        )}
        {slot === 'move' && (
          <label className="flex items-center gap-2" title="Linked things follow every later change of the move">
            <input type="checkbox" checked={linked} onChange={(e) => setLinked(e.target.checked)} /> <Link2 size={14} /> Keep linked to the move
          </label>
        )}
        <span className="flex-1" />
        <Button kind="strong" disabled={!spec || !to.length} onClick={() => chosen && void put(chosen)}>
          {to.length > 1 ? `Put it on ${to.length} ${things}` : `Put it on this ${things}`}
        </Button>
      </div>
    </Dialog>
  )
}
