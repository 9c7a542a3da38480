import { control } from '@/project/controls'
import { Plus } from 'lucide-react'
import { useState } from 'react'
import type { Edit, LayerRef, MoveUse } from '@/api/client'
import { isText, type PartProps } from '@/project/chosen'
import { common, commonFields, type Values } from '@/project/common'
import { catalogue } from '@/project/catalogue'
import { Parameters } from '@/features/parameters'
import { edit } from '@/project/connection'
import { newId, useProject } from '@/project/project'
import { tryEdits, useSession } from '@/project/session'
import { Button } from '@/ui/button'
import { Choice, Select } from '@/ui/choice'
import { NumberField } from '@/ui/number'
import { Part } from '@/ui/part'
import { Row } from '@/ui/row'
import { MovePill } from './move-pill'
import { SIDES, type Slot, useMoveName } from './uses'

const SLOTS = [
  ['move', 'Move'],
  ['entrance', 'Entrance'],
  ['exit', 'Exit'],
] as const
const KINDS = [
  ['move', 'A move'],
  ['entrance', 'An entrance, or backwards an exit'],
] as const

/** The move, entrance and exit of layers, and moves made of their keyframes. */
export function MotionPart({ chosen: { refs, layers } }: PartProps) {
  const [saving, setSaving] = useState(false)
  const moveName = useMoveName()
  const own = useProject((s) => s.document.moves)
  const first = refs[0]
  const keyed = layers.length === 1 && Object.keys(layers[0]?.animation ?? {}).length > 0
  const linked = layers.length === 1 ? layers[0]?.move : null
  const save = async (name: string, kind: 'move' | 'entrance') => {
    if (
      first &&
      (await edit({
        edit: 'save_move',
        id: `move-${newId()}`,
        name,
        kind,
        source: first,
        keys: useSession.getState().chosenKeys.filter((k) => k.layer === first.layer && k.scene === first.scene && k.property !== 'view'),
      }))
    )
      setSaving(false)
  }
  return (
    <Part name="motion" title="Motion">
      {SLOTS.map(([slot, label]) => {
        const uses = layers.map((l) => l[slot] ?? null)
        const id = common(uses.map((u) => u?.move ?? null))
        const some = uses.some(Boolean)
        return (
          <div key={slot} className="mb-1">
            <MovePill
              label={label}
              slot={slot}
              move={id ? moveName(id, slot) : null}
              several={some}
              takeAway={`Take the ${label.toLowerCase()} away`}
              onTakeAway={() => void edit({ edit: 'use_move', to: refs, slot, move: null })}
            />
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
      {keyed && !saving && (
        <p className="mt-1 flex flex-wrap gap-x-3 text-[12px]">
          <Button kind="link" onClick={() => setSaving(true)}>
            <Plus size={12} /> Save its keyframes as a move…
          </Button>
          {Object.entries(own ?? {})
            .filter(([, m]) => m.kind !== 'camera')
            .map(([id, m]) => (
              <Button key={id} kind="link" title="Everything linked to it follows" onClick={() => first && void edit({ edit: 'save_move', id, name: m.name, source: first, replace: true })}>
                Put them into “{m.name}”
              </Button>
            ))}
        </p>
      )}
      {saving && <NewMove onSave={save} />}
    </Part>
  )
}

/** Keyframes become a move, or an entrance that ends as they do. */
function NewMove({ onSave }: { onSave: (name: string, kind: 'move' | 'entrance') => Promise<void> }) {
  const [name, setName] = useState('')
  const [kind, setKind] = useState<'move' | 'entrance'>('move')
  return (
    <form
      className="mt-1"
      onSubmit={(e) => {
        e.preventDefault()
        if (name.trim()) void onSave(name.trim(), kind)
      }}
    >
      <div className="flex gap-1.5">
        <input
          aria-label="Name of the new move"
          value={name}
          maxLength={100}
          placeholder="Name of the move"
          onChange={(e) => setName(e.target.value)}
          className="h-7 min-w-0 flex-1 rounded border hairline bg-card px-2"
        />
        <Button size="small" disabled={!name.trim()} onClick={() => void onSave(name.trim(), kind)}>
          Save
        </Button>
      </div>
      <Choice label="What it is saved as" value={kind} choices={KINDS} onSet={setKind} />
    </form>
  )
}

type SpreadProps = { uses: MoveUse[]; onTry: (spread: Values | undefined) => void; onSet: (spread: Values | null) => void }
const WHOLE = 'whole'

/** How a move reaches the letters of a text. */
function SpreadFields({ uses, onTry, onSet }: SpreadProps) {
  const some = uses.some((u) => u.spread)
  const shown = commonFields(uses.map((u) => ({ unit: WHOLE, ...u.spread })))
  const [unit, ...rest] = catalogue().spread
  if (!unit) return null
  return (
    <>
      <Row label={unit.label}>
        <Select
          size="small"
          className="min-w-0 flex-1"
          label="What moves by itself"
          value={(shown.unit as string | null) ?? ''}
          choices={[...(shown.unit === null ? [['', '—'] as const] : []), [WHOLE, 'The text as a whole'] as const, ...unit.choices]}
          onSet={(value) => value && onSet(value === WHOLE ? null : { unit: value })}
        />
      </Row>
      {some && <Parameters parameters={rest} values={shown} onTry={onTry} onSet={onSet} onGiveUp={() => onTry(undefined)} />}
    </>
  )
}

/** How an own move reaches letters here becomes how it reaches them everywhere by itself. */
function KeepSpread({ id, uses }: { id: string; uses: MoveUse[] }) {
  const move = useProject((s) => s.document.moves?.[id])
  const spread = common(uses.map((u) => u.spread ?? null))
  if (!move || !spread || common([spread, move.spread ?? null])) return null
  return (
    <Button kind="link" title="It comes so wherever it is used from now on" onClick={() => void edit({ edit: 'set_move', id, spread })}>
      Keep this with “{move.name}”
    </Button>
  )
}

/** How a move is used: strength, length, delay, side. */
function UseFields({ refs, slot, uses }: { refs: LayerRef[]; slot: Slot; uses: MoveUse[] }) {
  const own = useProject((s) => s.document.moves)
  const spec = (id: string) => own?.[id] ?? catalogue().moves.find((m) => m.id === id)
  const set = (use: Record<string, unknown>): Edit => ({ edit: 'set_move_use', to: refs, slot, use })
  const number = (key: 'strength' | 'length' | 'delay', otherwise: (use: MoveUse) => number, label?: string) => (
    <NumberField
      key={key}
      {...control(`move.${key}`)}
      {...(label && { label })}
      value={common(uses.map((u) => u[key] ?? otherwise(u)))}
      onTry={(v) => tryEdits([set({ [key]: v })])}
      onSet={(v) => void edit(set({ [key]: v }))}
      onGiveUp={() => tryEdits(null)}
    />
  )
  const pace = common(uses.map((u) => u.pace ?? 'none'))
  const [ownMove] = uses.map((u) => u.move).filter((id) => own?.[id])
  return (
    <div className="mb-1.5 ml-2 border-l hairline pl-2.5">
      {(slot === 'move' || uses.every((u) => u.spread)) && number('strength', () => 1)}
      {slot !== 'move' && number('length', (u) => spec(u.move)?.length ?? control('move.length').minimum)}
      {slot !== 'move' && number('delay', () => 0, slot === 'exit' ? 'Before the end' : undefined)}
      {refs.every(isText) && <SpreadFields uses={uses} onTry={(spread) => tryEdits(spread === undefined ? null : [set({ spread })])} onSet={(spread) => void edit(set({ spread }))} />}
      {ownMove && <KeepSpread id={ownMove} uses={uses} />}
      <Row label="Pace" help="How its time passes, over the eases it is made with">
        <Select
          size="small"
          className="min-w-0 flex-1"
          label="Pace of the move"
          value={pace ?? ''}
          choices={[...(pace === null ? [['', '—'] as const] : []), ...catalogue().paces.map((p) => [p.id, p.id === 'none' ? 'As it is made' : p.label] as const)]}
          onSet={(chosen) => chosen && void edit(set({ pace: chosen }))}
        />
      </Row>
      {uses.every((u) => spec(u.move)?.sided) && (
        <div className="my-1 flex items-center gap-2.5">
          <span className="w-[76px] shrink-0">{slot === 'move' ? 'Towards' : 'From'}</span>
          <Choice
            label={slot === 'move' ? 'Towards' : 'From'}
            value={common(uses.map((u) => u.side ?? 'left')) ?? ''}
            choices={SIDES.map(
              ([id, arrow]) =>
                [
                  id,
                  <span key={id} role="img" aria-label={id}>
                    {slot === 'move' ? ({ '←': '→', '→': '←', '↑': '↓', '↓': '↑' }[arrow] ?? arrow) : arrow}
                  </span>,
                ] as const,
            )}
            onSet={(side) => void edit(set({ side }))}
          />
        </div>
      )}
    </div>
  )
}
