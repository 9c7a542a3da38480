import { NumberField } from '@/ui/number'
import { control } from '@/project/controls'
import { useState } from 'react'
import { catalogue } from '@/project/catalogue'
import { Select } from '@/ui/choice'
import { even, pixels, SHAPES } from '@/project/shapes'

export type FrameChoice = { width: number; height: number; rate: string }

/** Frame shape, size and rate. */
export function FrameFields({ value, onChange }: { value: FrameChoice; onChange: (value: FrameChoice) => void }) {
  const found = SHAPES.find(([, , a, b]) => Math.abs(value.width / value.height - a / b) < 0.01)
  const [own, setOwn] = useState(!found)
  const shorter = Math.min(value.width, value.height)
  const sizes = catalogue().sizes
  return (
    <div className="space-y-3">
      <fieldset>
        <legend className="mb-1.5 font-medium">Frame shape</legend>
        <div className="flex flex-wrap gap-1.5">
          {SHAPES.map(([id, name, a, b]) => {
            const on = !own && found?.[0] === id
            return (
              <button
                key={id}
                type="button"
                aria-pressed={on}
                title={name}
                onClick={() => {
                  setOwn(false)
                  onChange({ ...value, ...pixels(a, b, shorter) })
                }}
                className={`flex w-[62px] flex-col items-center gap-1.5 rounded-lg border px-1 py-2 ${on ? 'border-ink bg-card' : 'hairline'}`}
              >
                <span className="grid h-8 place-items-center">
                  <span className={`block rounded-[2px] ${on ? 'bg-brass' : 'bg-soft/50'}`} style={{ width: a >= b ? 32 : (32 * a) / b, height: a >= b ? (32 * b) / a : 32 }} />
                </span>
                <span className="text-[12px]">{id}</span>
              </button>
            )
          })}
          <button type="button" aria-pressed={own} onClick={() => setOwn(true)} className={`w-[62px] rounded-lg border px-1 text-[12px] ${own ? 'border-ink bg-card' : 'hairline'}`}>
            Own
          </button>
        </div>
      </fieldset>
      <div className="flex flex-wrap items-end gap-4">
        {own ? (
          (['width', 'height'] as const).map((side) => (
            <div key={side}>
              <span className="mb-1 block capitalize">{side}, px</span>
              <NumberField {...control(`frame.${side}`)} label={`${side}, px`} unit="" compactLight tall slider={false} value={value[side]} onSet={(v) => onChange({ ...value, [side]: even(v) })} />
            </div>
          ))
        ) : (
          <label className="block">
            <span className="mb-1 block">Size</span>
            <Select
              label="Size"
              value={String(sizes.find(([, s]) => s === shorter)?.[1] ?? shorter)}
              choices={(sizes.some(([, s]) => s === shorter) ? sizes : [...sizes, [String(shorter), shorter] as [string, number]]).map(([, s]) => {
                const p = found ? pixels(found[2], found[3], s) : { width: s, height: s }
                return [String(s), `${p.width} × ${p.height}`] as const
              })}
              onSet={(s) => found && onChange({ ...value, ...pixels(found[2], found[3], Number(s)) })}
            />
          </label>
        )}
        <label className="block">
          <span className="mb-1 block">Frames a second</span>
          <Select label="Frames a second" value={value.rate} choices={catalogue().rates.map((r) => [r.label, r.label] as const)} onSet={(rate) => onChange({ ...value, rate })} />
        </label>
      </div>
    </div>
  )
}
