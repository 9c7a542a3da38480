import { type ReactNode, useState } from 'react'
import { address, type Edit, type Parameter } from '@/api/client'
import type { Links } from '@/features/links'
import { catalogue } from '@/project/catalogue'
import type { Values } from '@/project/common'
import { edit } from '@/project/connection'
import { openDialog } from '@/project/dialogs'
import { pictureMark, useProject } from '@/project/project'
import { tryEdits } from '@/project/session'
import { Button } from '@/ui/button'
import { Choice, Select } from '@/ui/choice'
import { ColourField } from '@/ui/colour'
import { later } from '@/ui/later'
import { NumberField } from '@/ui/number'
import { Row, Tick } from '@/ui/row'
import type { Numbers } from './numbers'

const PicturePicker = later(() => import('@/features/pictures/picker').then((m) => m.PicturePicker))

const MOST_SIDE_BY_SIDE = 4
const MOST_LETTERS_SIDE_BY_SIDE = 39

/** Whether choices are too many, or too long, to lie side by side. */
const listed = ({ choices }: Parameter) => choices.length > MOST_SIDE_BY_SIDE || choices.reduce((sum, [, label]) => sum + label.length, 0) > MOST_LETTERS_SIDE_BY_SIDE

export type ParametersProps = { parameters: Parameter[]; values: Values; numbers?: Numbers; links?: Links; onTry: (partial: Values) => void; onSet: (partial: Values) => void; onGiveUp: () => void }

/** Controls for parameters the core declares; `values` hold null where several chosen things differ. */
export function Parameters({ parameters, values, numbers, links, onTry, onSet, onGiveUp }: ParametersProps) {
  /** A keyframed number is moved with all of its keyframes; others are set. */
  const changed = (p: Parameter, v: number, plain: () => void, run: (e: Edit) => void) => {
    const made = numbers && p.animated ? numbers.moved(p.id, v) : null
    if (made === null) plain()
    else run(made)
  }
  const colourChanged = (p: Parameter, v: string, plain: () => void, run: (edits: Edit[]) => void) => {
    const made = numbers && p.animated ? numbers.colour.moved(p.id, v) : null
    if (made === null) plain()
    else run(made)
  }
  return parameters
    .filter((p) => !p.when || p.when[1].includes(values[p.when[0]] as string | boolean))
    .map((p) => {
      const value = values[p.id]
      if (p.kind === 'number')
        return (
          <NumberField
            key={p.id}
            label={p.label}
            help={p.help}
            value={numbers && p.animated ? numbers.now(p.id, typeof value === 'number' ? value : null) : typeof value === 'number' ? value : null}
            minimum={p.minimum ?? 0}
            maximum={p.maximum ?? 1}
            step={p.step ?? 0.01}
            usual={p.usual}
            unit={p.unit}
            scale={p.scale}
            heading={links?.(p.id, p.label, typeof value === 'number' ? value : null)}
            mark={numbers && p.animated ? numbers.mark(p.id, p.label) : undefined}
            onTry={(v) =>
              changed(
                p,
                v,
                () => onTry({ [p.id]: whole(p, v) }),
                (e) => tryEdits([e]),
              )
            }
            onSet={(v) =>
              changed(
                p,
                v,
                () => onSet({ [p.id]: whole(p, v) }),
                (e) => void edit(e),
              )
            }
            onGiveUp={onGiveUp}
          />
        )
      if (p.kind === 'colour')
        return (
          <ColourField
            key={p.id}
            label={p.label}
            help={p.help}
            value={numbers && p.animated ? numbers.colour.now(p.id, (value as string | null) ?? null) : ((value as string | null) ?? null)}
            heading={links?.(p.id, p.label, typeof value === 'string' ? value : null)}
            mark={numbers && p.animated ? numbers.colour.mark(p.id, p.label) : undefined}
            onTry={(v) => colourChanged(p, v, () => onTry({ [p.id]: v }), tryEdits)}
            onSet={(v) =>
              colourChanged(
                p,
                v,
                () => onSet({ [p.id]: v }),
                (edits) => void edit(...edits),
              )
            }
          />
        )
      if (p.kind === 'choice' && listed(p))
        return (
          <Row key={p.id} label={p.label} heading={links?.(p.id, p.label, chosenOf(value))} help={p.help}>
            <Select
              label={p.label}
              value={(value as string) ?? ''}
              choices={[...(value == null ? ([['', '—']] as const) : []), ...p.choices]}
              onSet={(v) => v && onSet({ [p.id]: v })}
              size="small"
              className="min-w-0 flex-1"
            />
          </Row>
        )
      if (p.kind === 'choice')
        return (
          <Row key={p.id} label={p.label} heading={links?.(p.id, p.label, chosenOf(value))} help={p.help} stacked bare={p.id === 'kind'}>
            <Choice label={p.label} value={(value as string) ?? ''} choices={p.choices} onSet={(v) => onSet({ [p.id]: v })} />
          </Row>
        )
      if (p.kind === 'switch')
        return <Tick key={p.id} label={p.label} heading={links?.(p.id, p.label, typeof value === 'boolean' ? value : null)} help={p.help} value={value === true} onSet={(v) => onSet({ [p.id]: v })} />
      if (p.kind === 'typeface') return <FaceField key={p.id} label={p.label} heading={links?.(p.id, p.label, chosenOf(value))} value={chosenOf(value)} />
      return <PictureField key={p.id} label={p.label} value={(value as string | null) ?? null} onSet={(v) => onSet({ [p.id]: v })} />
    })
}

/** A value by its name, null where the chosen differ. */
const chosenOf = (value: unknown): string | null => (typeof value === 'string' ? value : null)

const whole = (p: Parameter, v: number) => (p.step !== null && Number.isInteger(p.step) && p.scale === 1 && Number.isInteger(p.default) && !p.unit ? Math.round(v) : v)

/** A family of faces: what it is called, and a way to another. */
function FaceField({ label, heading, value }: { label: string; heading: ReactNode; value: string | null }) {
  const own = useProject((s) => (value ? s.document.fonts?.[value]?.name : undefined))
  return (
    <Row label={label} heading={heading}>
      <Button size="small" className="min-w-0 flex-1" onClick={() => openDialog('faces')}>
        <span className="truncate">{value === null ? '—' : (own ?? catalogue().families.find((f) => f.id === value)?.label ?? value)}</span>
      </Button>
    </Row>
  )
}

/** A picture of the project: what it is, and a way to another. */
function PictureField({ label, value, onSet }: { label: string; value: string | null; onSet: (id: string) => void }) {
  const project = useProject((s) => s.id)
  const media = useProject((s) => (value ? s.document.media?.[value] : undefined))
  const [picking, setPicking] = useState(false)
  return (
    <Row label={label}>
      {value && media && <img src={address.thumbnail(project, value, pictureMark(media))} alt={media.name} className="h-8 w-12 rounded object-cover" />}
      <Button size="small" onClick={() => setPicking(true)}>
        Choose…
      </Button>
      {picking && <PicturePicker title={label} action={() => 'Use it'} onPick={([id]) => id && onSet(id)} onClose={() => setPicking(false)} />}
    </Row>
  )
}
