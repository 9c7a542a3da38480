import { catalogue } from '@/project/catalogue'
import { useProject } from '@/project/project'

export type Slot = 'move' | 'entrance' | 'exit'

export const SIDES = [
  ['left', '←'],
  ['top', '↑'],
  ['right', '→'],
  ['bottom', '↓'],
] as const

/** Name of a move, shipped or the project's own. */
export function useMoveName(): (id: string, slot?: Slot) => string {
  const own = useProject((s) => s.document.moves)
  return (id, slot) => {
    const shipped = catalogue().moves.find((m) => m.id === id)
    return own?.[id]?.name ?? ((slot === 'exit' && shipped?.exit_label) || shipped?.label) ?? id
  }
}
