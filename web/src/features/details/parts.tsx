import { ChevronRight } from 'lucide-react'
import { type ReactNode, useState } from 'react'
import { create } from 'zustand'
import { address, type Edit, type Parameter } from '@/api/client'
import type { Links } from '@/features/links/links'
import type { Numbers } from '@/features/motion/numbers'
import { PicturePicker } from '@/features/pictures/picker'
import { edit, pictureMark, tryEdits, useProject } from '@/project/store'
import { Button } from '@/ui/button'
import { Choice, Select } from '@/ui/choice'
import { ColourField } from '@/ui/colour'
import { NumberField } from '@/ui/number'

export type Values = Record<string, unknown>

/** Which parts are folded up, by title; kept while the window lives. */
const useFolded = create<Record<string, boolean>>()(() => ({}))

const MOST_SIDE_BY_SIDE = 4

/** A titled part of the details that folds up, with where its values come from. */
export function Part({ title, source, closed = false, children }: { title: string; source?: ReactNode; closed?: boolean; children: ReactNode }) {
  const folded = useFolded((s) => s[title] ?? closed)
  return (
    <section aria-label={title} className={`border-b hairline px-4 pt-2.5 last:border-b-0 ${folded ? 'pb-2' : 'pb-3'}`}>
      <div className={`flex items-baseline justify-between gap-2 ${folded ? '' : 'mb-1.5'}`}>
        <h3 className="font-heading text-[15px] font-semibold">
          <button type="button" aria-expanded={!folded} onClick={() => useFolded.setState({ [title]: !folded })} className="-ml-3.5 flex items-center gap-0.5">
            <ChevronRight size={12} className={`text-soft ${folded ? '' : 'rotate-90'}`} /> {title}
          </button>
        </h3>
        <span className="truncate text-[12px]">{source}</span>
      </div>
      {!folded && children}
    </section>
  )
}

/** Says that a part follows a look or the project's defaults, or offers the way back to them. */
export function Source({ own, look, onBack }: { own: boolean; look?: string; onBack: () => void }) {
  if (!own) return <span className="text-soft">{look ? `look: ${look}` : 'project default'}</span>
  return (
    <button type="button" className="text-tarn hover:underline" onClick={onBack}>
      {look ? 'own · back to the look' : 'own · back to default'}
    </button>
  )
}

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
            onTry={(v) => changed(p, v, () => onTry({ [p.id]: whole(p, v) }), (e) => tryEdits([e]))}
            onSet={(v) => changed(p, v, () => onSet({ [p.id]: whole(p, v) }), (e) => void edit(e))}
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
            onSet={(v) => colourChanged(p, v, () => onSet({ [p.id]: v }), (edits) => void edit(...edits))}
          />
        )
      if (p.kind === 'choice' && p.choices.length > MOST_SIDE_BY_SIDE)
        return (
          <div key={p.id} title={p.help} className="flex h-[31px] items-center gap-2.5">
            <span className="w-[86px] shrink-0">{p.label}</span>
            <Select label={p.label} value={(value as string) ?? ''} choices={[...(value == null ? ([['', '—']] as const) : []), ...p.choices]} onSet={(v) => v && onSet({ [p.id]: v })} className="!h-7 min-w-0 flex-1" />
          </div>
        )
      if (p.kind === 'choice')
        return (
          <div key={p.id} title={p.help} className="my-1">
            {p.id !== 'kind' && <span className="mb-0.5 block text-[12px] text-soft">{p.label}</span>}
            <Choice label={p.label} value={(value as string) ?? ''} choices={p.choices} onSet={(v) => onSet({ [p.id]: v })} />
          </div>
        )
      if (p.kind === 'switch')
        return (
          <label key={p.id} title={p.help} className="flex h-[27px] items-center gap-2">
            <input type="checkbox" checked={value === true} onChange={(e) => onSet({ [p.id]: e.target.checked })} /> {p.label}
          </label>
        )
      return <PictureField key={p.id} label={p.label} value={(value as string | null) ?? null} onSet={(v) => onSet({ [p.id]: v })} />
    })
}

const whole = (p: Parameter, v: number) => (p.step !== null && Number.isInteger(p.step) && p.scale === 1 && Number.isInteger(p.default) && !p.unit ? Math.round(v) : v)

/** A picture of the project: what it is, and a way to another. */
function PictureField({ label, value, onSet }: { label: string; value: string | null; onSet: (id: string) => void }) {
  const project = useProject((s) => s.id)
  const media = useProject((s) => (value ? s.document.media?.[value] : undefined))
  const [picking, setPicking] = useState(false)
  return (
    <div className="my-1 flex items-center gap-2.5">
      <span className="w-[86px] shrink-0">{label}</span>
      {value && media && <img src={address.thumbnail(project, value, pictureMark(media))} alt={media.name} className="h-8 w-12 rounded object-cover" />}
      <Button className="!h-7" onClick={() => setPicking(true)}>
        Choose…
      </Button>
      {picking && <PicturePicker title={label} action={() => 'Use it'} onPick={([id]) => id && onSet(id)} onClose={() => setPicking(false)} />}
    </div>
  )
}

/** The common value of one thing about several records; null if they differ. */
export function common<T>(values: T[]): T | null {
  const first = values[0]
  return values.length && values.every((v) => JSON.stringify(v) === JSON.stringify(first)) ? (first as T) : null
}

/** Records of the same shape as one record of common values. */
export function commonFields(records: Values[]): Values {
  return Object.fromEntries(Object.keys(records[0] ?? {}).map((k) => [k, common(records.map((r) => r[k]))]))
}
