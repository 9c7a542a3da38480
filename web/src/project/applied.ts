import type { Doc, EditAnswer, Join } from '@/api/client'
import { useProject } from './project'

type Values = Record<string, unknown>

/** What applies to a scene or a layer, its own or inherited, as the server says; `differing`: its parts that are not as a new one has them. */
export type Applied = {
  hold?: number
  shutter?: number
  join?: Join
  backdrop?: Values
  mount?: Values
  shadow?: Values
  correction?: Values
  setting?: Values
  ink?: Values
  panel?: Values
  fit?: string
  /** The beginning of what a text says, its details filled in. */
  said?: string
  differing?: string[]
}

/** What an answer says of some scenes and layers (by `container/layer`), put over what was known. */
export function withApplied(known: Record<string, Applied>, told: EditAnswer['applied'], document: Doc): Record<string, Applied> {
  const next: Record<string, Applied> = {}
  // Those that are gone are forgotten.
  for (const [key, one] of Object.entries(known)) {
    const container = key.split('/')[0] ?? ''
    if (document.scenes?.[container] || document.groups?.[container]) next[key] = one
  }
  for (const [key, indexes] of [...Object.entries(told.scenes), ...Object.entries(told.layers)])
    next[key] = Object.fromEntries(Object.entries(indexes).map(([name, index]) => [name, told.values[index]])) as Applied
  return next
}

const NOTHING: Applied = {}

/** How to look up what applies to a scene, or to a layer of a container. */
export function useApplied(): (container: string, layer?: string) => Applied {
  const known = useProject((s) => s.applied)
  return (container, layer) => known?.[layer === undefined ? container : `${container}/${layer}`] ?? NOTHING
}
