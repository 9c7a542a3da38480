import { create } from 'zustand'

/** Dialogs that a button opens, and the command list as well. Each belongs to a place: `desk`, `sound`, or (none) all. */
export type DialogName = 'export' | 'settings' | 'frame' | 'versions' | 'looks' | 'carry' | 'layout' | 'times' | 'move' | 'entrance' | 'exit' | 'camera-move' | 'add-photos' | 'replace-picture' | 'make-music' | 'cut-on-beats'

const useDialogs = create<{ open: DialogName | null }>()(() => ({ open: null }))

export const openDialog = (open: DialogName): void => useDialogs.setState({ open })
export const closeDialog = (): void => useDialogs.setState({ open: null })

/** Which of these dialogs is open, if one is. */
export const useOpenDialog = <T extends DialogName>(...names: T[]): T | null => useDialogs((s) => (names.includes(s.open as T) ? (s.open as T) : null))
