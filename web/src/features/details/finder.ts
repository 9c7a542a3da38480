import { create } from 'zustand'

/** Words that a number is looked for by; null while nobody looks for one. */
export const useFinder = create<{ sought: string | null }>()(() => ({ sought: null }))

export const findNumber = (): void => useFinder.setState({ sought: '' })
export const endFinding = (): void => useFinder.setState({ sought: null })
