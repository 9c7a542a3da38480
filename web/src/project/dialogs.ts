import { create } from 'zustand'

/** Dialogs that a button opens, and the command list as well. Each finds what it speaks of in the store, and is loaded when first opened. */
export type DialogName =
  | 'export'
  | 'waiting'
  | 'settings'
  | 'frame'
  | 'versions'
  | 'keys'
  | 'commands'
  | 'looks'
  | 'carry'
  | 'layout'
  | 'library'
  | 'trying'
  | 'renewal'
  | 'times'
  | 'join'
  | 'move'
  | 'entrance'
  | 'exit'
  | 'camera-move'
  | 'add-photos'
  | 'replace-picture'
  | 'make-music'
  | 'cut-on-beats'
  | 'titles'
  | 'styles'
  | 'faces'
  | 'details'

export type DialogProps = { onClose: () => void }

export const useDialogs = create<{ open: DialogName | null }>()(() => ({ open: null }))

export const openDialog = (open: DialogName): void => useDialogs.setState({ open })
export const closeDialog = (): void => useDialogs.setState({ open: null })
