import type { Place } from '@/project/places'

/** One action by its name. `words`: others it may be looked for by; `keys`: what does it at once; `place`: where it can be done alone. */
export type Command = {
  id: string
  label: string
  words?: string
  keys?: string
  /** Where its keys work; they work everywhere if none is named. */
  place?: Place
  match?: (event: KeyboardEvent) => boolean
  /** Whether there is something to do it to now. */
  possible?: () => boolean
  /** Where it takes one before it is done. */
  at?: Place
  run: () => void
}

export const plain = (e: KeyboardEvent): boolean => !e.ctrlKey && !e.metaKey && !e.altKey
export const letter = (key: string) => (e: KeyboardEvent) => plain(e) && e.key.toLowerCase() === key
export const control =
  (key: string, shift = false) =>
  (e: KeyboardEvent) =>
    (e.ctrlKey || e.metaKey) && e.shiftKey === shift && e.key.toLowerCase() === key
