import { type ReactNode, useEffect, useState } from 'react'
import { openMore } from './number'
import { useFits } from './sought'
import { useChosenWhole } from './whole'

type Props = { label: string; value: string | null; onTry?: (value: string) => void; onSet: (value: string) => void; help?: string; heading?: ReactNode; mark?: ReactNode }

/** A colour: a swatch that opens the system's picker, and its six digits. */
export function ColourField({ label, value, onTry, onSet, help, heading, mark }: Props) {
  const [shown, setShown] = useState(value ?? '#808080')
  const [typed, setTyped] = useState<string | null>(null)
  const fits = useFits(label)
  useEffect(() => setShown(value ?? '#808080'), [value])
  const digits = value === null ? '—' : shown.slice(1)
  const field = useChosenWhole(typed === null ? digits : null)
  const accept = () => {
    if (typed === null) return
    const match = /^#?([0-9a-f]{6})$/i.exec(typed.trim())
    setTyped(null)
    if (match) onSet(`#${match[1]?.toLowerCase()}`)
  }
  if (!fits) return null
  return (
    <div data-found className="flex h-[27px] items-center gap-2.5" title={help}>
      <span className={`${mark ? 'w-[76px]' : 'w-[86px]'} shrink-0 truncate`}>{heading ?? label}</span>
      <input
        type="color"
        aria-label={label}
        value={shown}
        className="h-[20px] w-8 rounded border hairline bg-transparent p-0"
        onChange={(e) => {
          setShown(e.target.value)
          onTry?.(e.target.value)
        }}
        onBlur={() => shown !== value && value !== null && onSet(shown)}
      />
      <span className="flex-1" />
      <input
        ref={field}
        aria-label={`${label}, six digits`}
        className="h-[22px] w-[62px] rounded border hairline bg-card px-1.5 text-right font-mono text-[12px]"
        value={typed ?? digits}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={accept}
        onKeyDown={(e) => (e.key === 'Enter' ? accept() : e.altKey && e.key === 'ArrowDown' && openMore(e.currentTarget))}
      />
      {mark}
    </div>
  )
}
