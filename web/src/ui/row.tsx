import type { ReactNode } from 'react'
import { useFits } from './sought'

/** A named line of the details; `stacked`: what it names stands under the name. */
export function Row({ label, help, stacked, bare, children }: { label: string; help?: string; stacked?: boolean; bare?: boolean; children: ReactNode }) {
  if (!useFits(label)) return null
  if (stacked)
    return (
      <div data-found title={help} className="my-1">
        {!bare && <span className="mb-0.5 block text-[12px] text-soft">{label}</span>}
        {children}
      </div>
    )
  return (
    <div data-found title={help} className="flex min-h-[31px] items-center gap-2.5">
      <span className="w-[86px] shrink-0">{label}</span>
      {children}
    </div>
  )
}

/** A switch with its name behind it. */
export function Tick({ label, help, value, onSet }: { label: string; help?: string; value: boolean; onSet: (on: boolean) => void }) {
  if (!useFits(label)) return null
  return (
    <label data-found title={help} className="flex h-[27px] items-center gap-2">
      <input type="checkbox" checked={value} onChange={(e) => onSet(e.target.checked)} /> {label}
    </label>
  )
}
