import { createContext, useContext } from 'react'
import { fitness } from './finding'

/** Words that a number is looked for by: fields that do not fit them are not shown. Empty: all are. */
export const Sought = createContext('')

/** Whether a field of this name is to be shown. */
export function useFits(label: string): boolean {
  const words = useContext(Sought)
  return !words || fitness(words, label) > 0
}
