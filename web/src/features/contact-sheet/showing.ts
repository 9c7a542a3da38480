import { create } from 'zustand'
import { useProject } from '@/project/project'

/** Which pictures are listed, and how. */
export type Listing = { words: string; shown: 'all' | 'used' | 'unused' | 'clips'; asList: boolean }

type Showing = {
  listing: Listing
  chosen: string[]
  /** The picture that is open, to be corrected. */
  open: string | null
  /** Pictures whose borders are being looked for. */
  trimming: string[] | null
  /** A picture to be brought into sight, once. */
  wanted: string | null
}

const BEGINNING: Showing = { listing: { words: '', shown: 'all', asList: false }, chosen: [], open: null, trimming: null, wanted: null }

/** What of the contact sheet is seen and chosen: nothing of it is stored. */
export const useShowing = create<Showing>()(() => BEGINNING)

useProject.subscribe((now, before) => {
  if (now.id !== before.id) useShowing.setState(BEGINNING)
})

export const listAs = (partial: Partial<Listing>): void => useShowing.setState((s) => ({ listing: { ...s.listing, ...partial } }))
export const choosePictures = (chosen: string[]): void => useShowing.setState({ chosen })
export const trim = (trimming: string[] | null): void => useShowing.setState({ trimming })

/** Opens a picture, alone or among the chosen ones; null closes it. */
export const openPicture = (open: string | null): void => useShowing.setState(({ chosen }) => ({ open, ...(open && !(chosen.length > 1 && chosen.includes(open)) && { chosen: [open] }) }))

/** A picture that somebody asked for by its name: whatever was listed, it is among what is, chosen and in sight. */
export const showPicture = (picture: string): void => useShowing.setState((s) => ({ wanted: picture, chosen: [picture], listing: { ...s.listing, words: '', shown: 'all' } }))
