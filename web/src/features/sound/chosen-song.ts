import { create } from 'zustand'
import { inOrder } from '@/project/ordering'
import { useProject } from '@/project/project'

/** The song whose details are seen, and where in the film its sound's time begins, in ticks (null while that is not known). */
export const useChosenSong = create<{ song: string | null; start: number | null }>()(() => ({ song: null, start: null }))

useProject.subscribe((now, before) => {
  if (now.id !== before.id) useChosenSong.setState({ song: null, start: null })
})

export const chooseSong = (song: string): void => useChosenSong.setState({ song })

/** The chosen song, or the first. */
export function chosenSong(): string | null {
  const songs = useProject.getState().document.songs
  const { song } = useChosenSong.getState()
  return song && songs?.[song] ? song : (inOrder(songs)[0]?.[0] ?? null)
}
