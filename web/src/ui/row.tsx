import type { ReactNode } from 'react'
import { useFits } from './sought'

type RowProps = { label: string; heading?: ReactNode; help?: string; stacked?: boolean; bare?: boolean; children: ReactNode }

/** A named line of the details; `stacked`: what it names stands under the name; `heading`: what stands in the place of the name, which it is still found by. */
export function Row({ label, heading, help, stacked, bare, children }: RowProps) {
  if (!useFits(label)) return null
  if (stacked)
    return (
      <div data-found title={help} className="my-1">
        {(!bare || heading) && <span className="mb-0.5 block text-[12px] text-soft">{heading ?? label}</span>}
        {children}
      </div>
    )
  return (
    <div data-found title={help} className="flex min-h-[31px] items-center gap-2.5">
      <span className="w-[86px] shrink-0">{heading ?? label}</span>
      {children}
    </div>
  )
}

/** A switch with its name behind it. */
export function Tick({ label, heading, help, value, onSet }: { label: string; heading?: ReactNode; help?: string; value: boolean; onSet: (on: boolean) => void }) {
  if (!useFits(label)) return null
  if (heading)
    return (
      <span data-found title={help} className="flex h-[27px] items-center gap-2">
        <input type="checkbox" aria-label={label} checked={value} onChange={(e) => onSet(e.target.checked)} /> {heading}
      </span>
    )
  return (
    <label data-found title={help} className="flex h-[27px] items-center gap-2">
      <input type="checkbox" checked={value} onChange={(e) => onSet(e.target.checked)} /> {label}
    </label>
  )
}
