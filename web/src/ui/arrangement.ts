import { create } from 'zustand'

/** How this browser has arranged the desk: its open chapter, what is folded up, and how large its parts are (in CSS pixels). */
export type Arrangement = { chapter: string; folded: Record<string, boolean>; sizes: Record<string, number> }

const KEY = 'oak-arrangement'

const only = <T>(found: unknown, type: string): Record<string, T> =>
  Object.fromEntries(Object.entries((found ?? {}) as Record<string, unknown>).filter(([, v]) => typeof v === type)) as Record<string, T>

function read(): Arrangement {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Arrangement>
    return { chapter: typeof kept.chapter === 'string' ? kept.chapter : '', folded: only<boolean>(kept.folded, 'boolean'), sizes: only<number>(kept.sizes, 'number') }
  } catch {
    return { chapter: '', folded: {}, sizes: {} }
  }
}

export const useArrangement = create<Arrangement>()(read)

useArrangement.subscribe((now) => {
  try {
    localStorage.setItem(KEY, JSON.stringify(now))
  } catch {
    // A browser that keeps nothing: it holds while the window lives.
  }
})

export const setFolded = (part: string, folded: boolean): void => useArrangement.setState((s) => ({ folded: { ...s.folded, [part]: folded } }))

/** A size of its own, or (null) the usual one again. */
export const setSize = (part: string, size: number | null): void =>
  useArrangement.setState((s) => {
    const { [part]: _, ...others } = s.sizes
    return { sizes: size === null ? others : { ...others, [part]: Math.round(size) } }
  })
