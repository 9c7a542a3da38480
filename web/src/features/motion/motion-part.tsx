import { control } from '@/project/controls'
import { Plus } from 'lucide-react'
import { useState } from 'react'
import type { Edit, LayerRef, MoveUse } from '@/api/client'
import { isText, type PartProps } from '@/project/chosen'
import { common } from '@/project/common'
import { catalogue } from '@/project/catalogue'
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
/** The move, entrance and exit of layers, and moves made of their keyframes. */
export function MotionPart({ chosen: { refs, layers } }: PartProps) {
  const [name, setName] = useState<string | null>(null)
  const moveName = useMoveName()
  const own = useProject((s) => s.document.moves)
  const first = refs[0]
  const keyed = layers.length === 1 && Object.keys(layers[0]?.animation ?? {}).length > 0
  const linked = layers.length === 1 ? layers[0]?.move : null
  const save = async () => {
    if (
      first &&
      name?.trim() &&
      (await edit({
        edit: 'save_move',
        id: `move-${newId()}`,
        name: name.trim(),
        source: first,
        keys: useSession.getState().chosenKeys.filter((k) => k.layer === first.layer && k.scene === first.scene && k.property !== 'view'),
      }))
    )
      setName(null)
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
          <input
            aria-label="Name of the new move"
            value={name}
            maxLength={100}
            placeholder="Name of the move"
            onChange={(e) => setName(e.target.value)}
            className="h-7 min-w-0 flex-1 rounded border hairline bg-card px-2"
          />
          <Button size="small" disabled={!name.trim()} onClick={() => void save()}>
            Save
          </Button>
        </form>
      )}
    </Part>
  )
}

type Spread = NonNullable<MoveUse['spread']>
type SpreadProps = { uses: MoveUse[]; onTry: (spread: Spread | undefined) => void; onSet: (spread: Spread | null) => void }
const WHOLE = 'whole'

/** How a move reaches the letters of a text. */
function SpreadFields({ uses, onTry, onSet }: SpreadProps) {
  const spread = common(uses.map((u) => u.spread ?? null))
  const some = uses.some((u) => u.spread)
  const changed = (partial: Partial<Spread>): Spread => ({
    ...(spread ?? uses.find((u) => u.spread)?.spread ?? { unit: 'letter', order: 'forwards', overlap: 0.7, rhythm: 'none', seed: 1 }),
    ...partial,
  })
  return (
    <>
      <Row label="By">
        <Select
          size="small"
          className="min-w-0 flex-1"
          label="What moves by itself"
          value={spread?.unit ?? (some ? '' : WHOLE)}
          choices={[...(some && !spread ? [['', '—'] as const] : []), [WHOLE, 'The text as a whole'] as const, ...catalogue().units.map((u) => [u.id, u.label] as const)]}
          onSet={(unit) => unit && onSet(unit === WHOLE ? null : changed({ unit: unit as Spread['unit'] }))}
        />
      </Row>
      {some && (
        <>
          <Row label="Order">
            <Select
              size="small"
              className="min-w-0 flex-1"
              label="Order of letters"
              value={spread?.order ?? ''}
              choices={[...(spread ? [] : [['', '—'] as const]), ...catalogue().orders.map((o) => [o.id, o.label] as const)]}
              onSet={(order) => order && onSet(changed({ order: order as Spread['order'] }))}
            />
          </Row>
          <NumberField
            {...control('spread.overlap')}
            value={spread?.overlap ?? null}
            onTry={(overlap) => onTry(changed({ overlap }))}
            onSet={(overlap) => onSet(changed({ overlap }))}
            onGiveUp={() => onTry(undefined)}
          />
          <Row label="Rhythm">
            <Select
              size="small"
              className="min-w-0 flex-1"
              label="Rhythm of beginnings"
              value={spread?.rhythm ?? ''}
              choices={[
                ...(spread ? [] : [['', '—'] as const]),
                ...catalogue()
                  .eases.filter((e) => !e.hold && !e.follow)
                  .map((e) => [e.id, e.label] as const),
              ]}
              onSet={(rhythm) => rhythm && onSet(changed({ rhythm: rhythm as Spread['rhythm'] }))}
            />
          </Row>
          {spread?.order === 'any' && <NumberField {...control('spread.seed')} value={spread.seed ?? 1} slider={false} onSet={(seed) => onSet(changed({ seed }))} />}
        </>
      )}
    </>
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
  return (
    <div className="mb-1.5 ml-2 border-l hairline pl-2.5">
      {(slot === 'move' || uses.every((u) => u.spread)) && number('strength', () => 1)}
      {slot !== 'move' && number('length', (u) => spec(u.move)?.length ?? control('move.length').minimum)}
      {slot !== 'move' && number('delay', () => 0, slot === 'exit' ? 'Before the end' : undefined)}
      {refs.every(isText) && <SpreadFields uses={uses} onTry={(spread) => tryEdits(spread === undefined ? null : [set({ spread })])} onSet={(spread) => void edit(set({ spread }))} />}
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
