import { Slider } from 'radix-ui'
import { type KeyboardEvent, type ReactNode, useState } from 'react'
import { type Held, useDrag } from '@/interaction/drag'
import { useFits } from './sought'
import { sum } from './sums'
import { useChosenWhole } from './whole'

export type NumberProps = {
  label: string
  /** In stored units; null when several chosen things differ. */
  value: number | null
  minimum: number
  maximum: number
  step: number
  /** What the slider goes through, if less than what is allowed. */
  usual?: readonly [number, number] | null
  unit?: string
  /** Stored value of one shown unit. */
  scale?: number
  help?: string
  /** It is kept as a whole number. */
  whole?: boolean
  slider?: boolean
  /** The field alone, named only for readers, on a dark ground. */
  compact?: boolean
  /** The same on paper. */
  compactLight?: boolean
  /** As high as a button, in a form. */
  tall?: boolean
  /** What stands in place of the name. */
  heading?: ReactNode
  /** What stands behind the field. */
  mark?: ReactNode
  onTry?: (value: number) => void
  onSet: (value: number) => void
  onGiveUp?: () => void
}

/** Opens what stands at the name of a field's value. */
export function openMore(field: HTMLElement): void {
  field.parentElement?.querySelector('[data-more]')?.dispatchEvent(new window.KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true }))
}

const decimals = (step: number) => Math.max(0, Math.min(4, -Math.floor(Math.log10(step) + 1e-9)))

/** A number that is typed (sums and units welcome), dragged sideways, or nudged with the arrows (Shift: ten steps). */
export function NumberField({
  label,
  value,
  minimum,
  maximum,
  step,
  usual,
  unit = '',
  scale = 1,
  help,
  whole,
  slider = true,
  compact: dark,
  compactLight,
  tall,
  heading,
  mark,
  onTry,
  onSet,
  onGiveUp,
}: NumberProps) {
  const compact = dark || compactLight
  const fits = useFits(label)
  const [typed, setTyped] = useState<string | null>(null)
  const [dragged, setDragged] = useState<number | null>(null)
  const [wrong, setWrong] = useState(false)
  const shown = dragged ?? value
  const places = decimals(step)
  const kept = (v: number) => (whole ? Math.round(v) : v)
  const clamp = (v: number) => kept(Math.min(maximum, Math.max(minimum, v)))
  const text = shown === null ? '—' : `${(shown / scale).toFixed(places)}${unit}`

  const field = useChosenWhole(typed === null ? text : null)

  const attempt = (v: number) => {
    setDragged(v)
    onTry?.(v)
  }
  const settle = (v: number) => {
    setDragged(null)
    if (v !== value) onSet(v)
    else onGiveUp?.()
  }
  const giveUp = () => {
    setDragged(null)
    setTyped(null)
    setWrong(false)
    onGiveUp?.()
  }
  const accept = () => {
    if (typed === null) return
    const read = sum(typed, unit)
    if (read === null) {
      setWrong(true)
      return
    }
    setTyped(null)
    setWrong(false)
    settle(clamp(read * scale))
  }
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.altKey && event.key === 'ArrowDown') openMore(event.currentTarget)
    else if (event.key === 'Enter') accept()
    else if (event.key === 'Escape') {
      giveUp()
      event.stopPropagation()
    } else if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && value !== null) {
      event.preventDefault()
      const base = typed === null ? value : (sum(typed, unit) ?? value / scale) * scale
      const direction = event.key === 'ArrowUp' ? 1 : -1
      setTyped(null)
      const next = clamp(Math.round((base + direction * step * scale * (event.shiftKey ? 10 : 1)) * 1e9) / 1e9)
      if (next !== value) onSet(next)
    } else return
    event.stopPropagation()
  }
  const draggedTo = (from: number, way: number, held: Held) => clamp(from + Math.round(way / 2) * step * scale * (held.constrain ? 10 : 1))
  const bind = useDrag<number>({
    onTap: (_, event) => (event.currentTarget as HTMLElement).focus(),
    onTry: (from, start, now, held) => attempt(draggedTo(from, now[0] - start[0], held)),
    onSet: (from, start, now, held) => settle(draggedTo(from, now[0] - start[0], held)),
    onGiveUp: giveUp,
  })

  if (!fits) return null
  return (
    <div data-found className={compact ? 'flex items-center' : 'flex h-[27px] items-center gap-2.5'} title={help ?? (compact ? label : undefined)}>
      {!compact && <span className={`${mark ? 'w-[76px]' : 'w-[86px]'} shrink-0 truncate text-ink`}>{heading ?? label}</span>}
      {compact ? null : slider ? (
        <Slider.Root
          className="relative flex h-5 min-w-0 flex-1 touch-none items-center"
          min={usual?.[0] ?? minimum}
          max={usual?.[1] ?? maximum}
          step={step * scale}
          value={[Math.min(usual?.[1] ?? maximum, Math.max(usual?.[0] ?? minimum, shown ?? minimum))]}
          onValueChange={([v]) => v !== undefined && attempt(kept(v))}
          onValueCommit={([v]) => v !== undefined && settle(kept(v))}
        >
          <Slider.Track className="relative h-[3px] flex-1 rounded-full bg-rule">
            <Slider.Range className="absolute h-full rounded-full bg-soft/60" />
          </Slider.Track>
          <Slider.Thumb aria-label={label} className="block size-3.5 rounded-full border-2 border-ink bg-card" />
        </Slider.Root>
      ) : (
        <span className="flex-1" />
      )}
      <input
        ref={field}
        aria-label={slider ? `${label}, number` : label}
        aria-invalid={wrong}
        className={`${tall ? 'h-8 rounded-lg' : 'h-[22px] rounded'} cursor-ew-resize border text-right font-mono text-[12px] tabular-nums focus:cursor-text ${dark ? 'w-[52px] border-white/20 bg-pit px-1 text-chalk' : tall ? 'w-24 bg-card px-2.5' : compact ? 'w-[46px] bg-card px-1' : `${text.length > 6 ? 'w-[86px]' : 'w-[62px]'} bg-card px-1.5`} ${wrong ? '!border-rowan' : dark ? '' : 'hairline'}`}
        value={typed ?? text}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => {
          setTyped(e.target.value)
          setWrong(false)
        }}
        onBlur={() => {
          if (typed !== null && sum(typed, unit) === null) giveUp()
          else accept()
        }}
        onKeyDown={onKeyDown}
        // A press begins a drag; only a press that did not move puts the cursor into the field.
        onMouseDown={(e) => document.activeElement !== e.currentTarget && e.preventDefault()}
        onDragStart={(e) => e.preventDefault()}
        {...(value !== null && typed === null && bind(value))}
      />
      {mark}
    </div>
  )
}
