import { Dices } from 'lucide-react'
import { useState } from 'react'
import type { Edit } from '@/api/client'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { Button } from '@/ui/button'
import { Select } from '@/ui/choice'
import type { FilmDial } from './told'

type Value = FilmDial['value']

/** Where a dial stands, without numbers: by sliding, choosing, or a colour. */
export function DialAnswer({ dial, onTry }: { dial: FilmDial; onTry: (edits: Edit[]) => void }) {
  const [tried, setTried] = useState<Value | null>(null)
  const turned = (value: Value | null): Edit => ({ edit: 'turn_film_dials', turns: [{ name: dial.name, kind: dial.kind, value }] })
  const set = (value: Value | null) => {
    setTried(null)
    void edit(turned(value))
  }
  const show = (value: Value) => {
    setTried(value)
    onTry([turned(value)])
  }
  return (
    <>
      <Control dial={dial} value={tried ?? dial.value} onShow={show} onSet={set} />
      {dial.value !== dial.dial.default && (
        <Button kind="link" className="mt-2" onClick={() => set(null)}>
          As the template has it
        </Button>
      )}
    </>
  )
}

function Control({ dial, value, onShow, onSet }: { dial: FilmDial; value: Value; onShow: (value: Value) => void; onSet: (value: Value) => void }) {
  const spec = dial.dial
  if (dial.kind === 'amount') {
    const { minimum = 0, maximum = 1, step = 0.01, scale = 1, unit = '' } = spec
    return (
      <label className="flex items-center gap-3">
        <span className="text-soft">less</span>
        <input
          type="range"
          aria-label={dial.name}
          aria-valuetext={`${(Number(value) / scale).toFixed(0)} ${unit}`}
          min={minimum}
          max={maximum}
          step={step}
          value={Number(value)}
          onChange={(e) => onShow(Number(e.target.value))}
          onPointerUp={(e) => onSet(Number(e.currentTarget.value))}
          onKeyUp={(e) => onSet(Number(e.currentTarget.value))}
          className="h-11 min-w-0 flex-1 accent-[var(--brass)]"
        />
        <span className="text-soft">more</span>
      </label>
    )
  }
  if (dial.kind === 'colour')
    return (
      <input
        type="color"
        aria-label={dial.name}
        value={String(value)}
        onChange={(e) => onShow(e.target.value)}
        onBlur={(e) => onSet(e.target.value)}
        className="h-14 w-full cursor-pointer rounded-lg border hairline bg-paper p-1"
      />
    )
  if (dial.kind === 'switch')
    return (
      <div className="flex gap-2">
        {[true, false].map((on) => (
          <Button key={String(on)} aria-pressed={value === on} className={`!h-11 flex-1 ${value === on ? '!border-ink ring-2 ring-brass' : ''}`} onClick={() => onSet(on)}>
            {on ? 'Yes' : 'No'}
          </Button>
        ))}
      </div>
    )
  if (dial.kind === 'choice')
    return (
      <div role="group" aria-label={dial.name} className="flex flex-wrap gap-2">
        {(spec.choices ?? []).map((c) => (
          <Button key={c.value} aria-pressed={value === c.value} className={`!h-11 ${value === c.value ? '!border-ink ring-2 ring-brass' : ''}`} onClick={() => onSet(c.value)}>
            {c.label}
          </Button>
        ))}
      </div>
    )
  if (dial.kind === 'face')
    return <Select label={dial.name} value={String(value)} choices={catalogue().families.map((f): [string, string] => [f.id, f.label])} onSet={onSet} className="!h-11 w-full text-[16px]" />
  if (dial.kind === 'seed')
    return (
      <Button className="!h-11" onClick={() => onSet(Number(value) >= (spec.maximum ?? 1) ? (spec.minimum ?? 0) : Number(value) + 1)}>
        <Dices size={16} /> Another
      </Button>
    )
  return (
    <input
      aria-label={dial.name}
      value={String(value)}
      onChange={(e) => onShow(e.target.value)}
      onBlur={(e) => onSet(e.target.value)}
      className="h-11 w-full rounded-lg border hairline bg-paper px-3 text-[16px]"
    />
  )
}
