import { control } from '@/project/controls'
import { Plus, X } from 'lucide-react'
import { useState } from 'react'
import type { Layer, LayerRef, MoveUse, Edit } from '@/api/client'
import { common, Part } from '@/features/details/parts'
import { closeDialog, openDialog, useOpenDialog } from '@/project/dialogs'
import { catalogue, edit, newId, tryEdits, useProject } from '@/project/store'
import { Button, IconButton } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { NumberField } from '@/ui/number'
import { MovePicker, type Slot } from './move-picker'

const SLOTS = [['move', 'Move'], ['entrance', 'Entrance'], ['exit', 'Exit']] as const
export const SIDES = [['left', '←'], ['top', '↑'], ['right', '→'], ['bottom', '↓']] as const

/** Name of a move, shipped or the project's own. */
export function useMoveName(): (id: string, slot?: Slot) => string {
  const own = useProject((s) => s.document.moves)
  return (id, slot) => {
    const shipped = catalogue().moves.find((m) => m.id === id)
    return own?.[id]?.name ?? ((slot === 'exit' && shipped?.exit_label) || shipped?.label) ?? id
  }
}

/** The move, entrance and exit of layers, and moves made of their keyframes. */
export function MotionPart({ refs, layers }: { refs: LayerRef[]; layers: Layer[] }) {
  const picking = useOpenDialog('move', 'entrance', 'exit')
  const [name, setName] = useState<string | null>(null)
  const moveName = useMoveName()
  const own = useProject((s) => s.document.moves)
  const first = refs[0]
  const keyed = layers.length === 1 && Object.keys(layers[0]?.animation ?? {}).length > 0
  const linked = layers.length === 1 ? layers[0]?.move : null
  const save = async () => {
    if (first && name?.trim() && (await edit({ edit: 'save_move', id: `move-${newId()}`, name: name.trim(), source: first, keys: useProject.getState().chosenKeys.filter((k) => k.layer === first.layer && k.scene === first.scene && k.property !== 'view') }))) setName(null)
  }
  return (
    <>
    <Part title="Motion">
      {SLOTS.map(([slot, label]) => {
        const uses = layers.map((l) => l[slot] ?? null)
        const id = common(uses.map((u) => u?.move ?? null))
        const some = uses.some(Boolean)
        return (
          <div key={slot} className="mb-1">
            <div className="flex h-[27px] items-center gap-2">
              <span className="w-[60px] shrink-0">{label}</span>
              <button type="button" onClick={() => openDialog(slot)} className={`h-6 min-w-0 flex-1 truncate rounded-full border px-2.5 text-left text-[12.5px] ${some ? 'border-transparent bg-ink text-on-ink' : 'hairline text-soft hover:bg-deep'}`}>
                {id ? moveName(id, slot) : some ? 'several' : 'none, choose…'}
              </button>
              {some && (
                <IconButton label={`Take the ${label.toLowerCase()} away`} className="!h-6 !w-6" onClick={() => void edit({ edit: 'use_move', to: refs, slot, move: null })}>
                  <X size={13} />
                </IconButton>
              )}
            </div>
            {some && <UseFields refs={refs} slot={slot} uses={uses.filter((u): u is MoveUse => u !== null)} />}
          </div>
        )
      })}
      {linked && (
        <p className="text-[12px] text-soft">
          <Button kind="link" onClick={() => void edit({ edit: 'unlink_move', to: refs })}>
            Make keyframes of the move
          </Button>
        </p>
      )}
      {keyed && name === null && (
        <p className="mt-1 flex flex-wrap gap-x-3 text-[12px]">
          <Button kind="link" onClick={() => setName('')}>
            <Plus size={12} /> Save its keyframes as a move…
          </Button>
          {Object.entries(own ?? {}).map(([id, m]) => (
            <Button key={id} kind="link" title="Everything linked to it follows" onClick={() => first && void edit({ edit: 'save_move', id, name: m.name, source: first, replace: true })}>
              Put them into “{m.name}”
            </Button>
          ))}
        </p>
      )}
      {name !== null && (
        <form
          className="mt-1 flex gap-1.5"
          onSubmit={(e) => {
            e.preventDefault()
            void save()
          }}
        >
          <input aria-label="Name of the new move" value={name} maxLength={100} placeholder="Name of the move" onChange={(e) => setName(e.target.value)} className="h-7 min-w-0 flex-1 rounded border hairline bg-card px-2" />
          <Button className="!h-7" disabled={!name.trim()} onClick={() => void save()}>
            Save
          </Button>
        </form>
      )}
    </Part>
      {picking && <MovePicker slot={picking} to={refs} onClose={closeDialog} />}
    </>
  )
}

/** How a move is used: strength, length, delay, side. */
function UseFields({ refs, slot, uses }: { refs: LayerRef[]; slot: Slot; uses: MoveUse[] }) {
  const own = useProject((s) => s.document.moves)
  const spec = (id: string) => own?.[id] ?? catalogue().moves.find((m) => m.id === id)
  const set = (use: Record<string, unknown>): Edit => ({ edit: 'set_move_use', to: refs, slot, use })
  const number = (key: 'strength' | 'length' | 'delay', otherwise: (use: MoveUse) => number, label?: string) => (
    <NumberField key={key} {...control(`move.${key}`)} {...(label && { label })} value={common(uses.map((u) => u[key] ?? otherwise(u)))} onTry={(v) => tryEdits([set({ [key]: v })])} onSet={(v) => void edit(set({ [key]: v }))} onGiveUp={() => tryEdits(null)} />
  )
  return (
    <div className="mb-1.5 ml-2 border-l hairline pl-2.5">
      {slot === 'move' && number('strength', () => 1)}
      {slot !== 'move' && number('length', (u) => spec(u.move)?.length ?? control('move.length').minimum)}
      {slot !== 'move' && number('delay', () => 0, slot === 'exit' ? 'Before the end' : undefined)}
      {uses.every((u) => spec(u.move)?.sided) && (
        <div className="my-1 flex items-center gap-2.5">
          <span className="w-[76px] shrink-0">{slot === 'move' ? 'Towards' : 'From'}</span>
          <Choice label={slot === 'move' ? 'Towards' : 'From'} value={common(uses.map((u) => u.side ?? 'left')) ?? ''} choices={SIDES.map(([id, arrow]) => [id, <span key={id} role="img" aria-label={id}>{slot === 'move' ? ({ '←': '→', '→': '←', '↑': '↓', '↓': '↑' }[arrow] ?? arrow) : arrow}</span>] as const)} onSet={(side) => void edit(set({ side }))} />
        </div>
      )}
    </div>
  )
}
