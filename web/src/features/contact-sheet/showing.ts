import { create } from 'zustand'

/** A picture that somebody asked for by its name: it is chosen and brought into sight once the contact sheet is there. */
export const useShowing = create<{ picture: string | null }>()(() => ({ picture: null }))

export const showPicture = (picture: string): void => useShowing.setState({ picture })
