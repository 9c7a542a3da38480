import { ToggleGroup } from 'radix-ui'
import type { ReactNode } from 'react'

type Props<V extends string> = { label: string; value: V | ''; choices: readonly (readonly [V, ReactNode])[]; onSet: (value: V) => void; dark?: boolean }

/** A few choices side by side; the arrows move between them. */
export function Choice<V extends string>({ label, value, choices, onSet, dark }: Props<V>) {
  const chosen = dark ? 'data-[state=on]:bg-white/15 text-chalk' : 'data-[state=on]:bg-ink data-[state=on]:text-on-ink'
  return (
    <ToggleGroup.Root type="single" aria-label={label} value={value} onValueChange={(v) => v && onSet(v as V)} className={`inline-flex gap-1 ${dark ? '' : 'flex-wrap'}`}>
      {choices.map(([id, text]) => (
        <ToggleGroup.Item key={id} value={id} className={`h-7 whitespace-nowrap rounded-full border px-3 ${dark ? 'border-transparent' : 'hairline'} ${chosen}`}>
          {text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  )
}

type SelectProps = { label: string; value: string; choices: readonly (readonly [string, string])[]; onSet: (value: string) => void; size?: 'usual' | 'small'; className?: string; id?: string }

/** One of many, as the system draws it. */
export function Select({ label, value, choices, onSet, size = 'usual', className = '', id }: SelectProps) {
  return (
    <select id={id} aria-label={label} value={value} onChange={(e) => onSet(e.target.value)} className={`${size === 'small' ? 'h-7' : 'h-8'} rounded-lg border hairline bg-card px-2 ${className}`}>
      {choices.map(([key, text]) => (
        <option key={key} value={key}>
          {text}
        </option>
      ))}
    </select>
  )
}
