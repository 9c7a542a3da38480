import type { ReactNode } from 'react'
import type { Parameter } from '@/api/client'
import { ColourField } from '@/ui/colour'
import { Choice } from '@/ui/choice'
import { NumberField } from '@/ui/number'

/** A titled part of the details, with where its values come from. */
export function Part({ title, source, children }: { title: string; source?: ReactNode; children: ReactNode }) {
  return (
    <section aria-label={title} className="border-b hairline px-4 pb-3 pt-3 last:border-b-0">
      <div className="mb-1.5 flex items-baseline justify-between gap-2">
        <h3 className="font-heading text-[15px] font-semibold">{title}</h3>
        <span className="text-[12px]">{source}</span>
      </div>
      {children}
    </section>
  )
}

/** Says that a part follows the project's defaults, or offers the way back to them. */
export function Source({ own, onBack }: { own: boolean; onBack: () => void }) {
  if (!own) return <span className="text-soft">project default</span>
  return (
    <button type="button" className="text-tarn hover:underline" onClick={onBack}>
      own · back to default
    </button>
  )
}

type Values = Record<string, unknown>

/** Controls for parameters the core declares; `values` hold null where several chosen things differ. */
export function Parameters({ parameters, values, onTry, onSet, onGiveUp }: { parameters: Parameter[]; values: Values; onTry: (partial: Values) => void; onSet: (partial: Values) => void; onGiveUp: () => void }) {
  return parameters
    .filter((p) => !p.when || values[p.when[0]] === p.when[1])
    .map((p) => {
      const value = values[p.id]
      if (p.kind === 'number')
        return (
          <NumberField key={p.id} label={p.label} help={p.help} value={(value as number | null) ?? null} minimum={p.minimum ?? 0} maximum={p.maximum ?? 1} step={p.step ?? 0.01} unit={p.unit} scale={p.scale} onTry={(v) => onTry({ [p.id]: v })} onSet={(v) => onSet({ [p.id]: v })} onGiveUp={onGiveUp} />
        )
      if (p.kind === 'colour')
        return <ColourField key={p.id} label={p.label} help={p.help} value={(value as string | null) ?? null} onTry={(v) => onTry({ [p.id]: v })} onSet={(v) => onSet({ [p.id]: v })} />
      if (p.kind === 'choice')
        return (
          <div key={p.id} className="mb-1">
            <Choice label={p.label} value={(value as string) ?? ''} choices={p.choices} onSet={(v) => onSet({ [p.id]: v })} />
          </div>
        )
      return null
    })
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
