import type { MenuEntry } from '@/ui/menu'
import type { Place } from './places'
import { layersOf } from './project'
import { now, reachedLayers, reachedPhotos } from './session'

/** One action by its name. The command list, menus and the list of keys are all made of these. */
export type Command = {
  id: string
  label: string
  /** What it is called in a menu, which says already what it is done to. */
  short?: string
  /** Other words it may be looked for by. */
  words?: string
  /** What does it at once, as it is written. */
  keys?: string
  match?: (event: KeyboardEvent) => boolean
  /** Where its keys work; they work everywhere if none is named. */
  place?: Place
  /** Where it takes one before it is done. */
  at?: Place
  /** Whether there is something to do it to now. */
  possible?: () => boolean
  /** Whether what it switches is on. */
  on?: () => boolean
  danger?: boolean
  run: () => void
}

/** Whether there is something to do it to now. */
export const can = (command: Command): boolean => command.possible?.() ?? true

/** Commands as the entries of a menu; what cannot be done now is there, but dim. */
export const menuOf = (commands: (Command | 'rule')[]): MenuEntry[] =>
  commands.map((c) => (c === 'rule' ? c : { label: c.short ?? c.label, run: c.run, keys: c.keys, danger: c.danger, checked: c.on?.(), disabled: !can(c) }))

/** Those that can be done now. */
export const possibleOf = (commands: Command[]): Command[] => commands.filter(can)

export const plain = (e: KeyboardEvent): boolean => !e.ctrlKey && !e.metaKey && !e.altKey
export const letter = (key: string) => (e: KeyboardEvent) => plain(e) && e.key.toLowerCase() === key
export const control =
  (key: string, shift = false) =>
  (e: KeyboardEvent) =>
    (e.ctrlKey || e.metaKey) && e.shiftKey === shift && e.key.toLowerCase() === key

/** The scene that is seen; empty if none is chosen. */
export const chosenScene = (): string => now().chosenScenes.at(-1) ?? ''
export const someScene = (): boolean => now().chosenScenes.length > 0
export const someReached = (): boolean => reachedLayers().length > 0
export const somePhoto = (): boolean => reachedPhotos().length > 0

/** The layer chosen first, as it stands in the document. */
export function firstChosen() {
  const [ref] = now().chosenLayers
  const layer = ref && layersOf(now().document, ref.scene)[ref.layer]
  return layer ? { ref, layer } : null
}
