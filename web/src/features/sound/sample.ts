import { useEffect, useRef, useState } from 'react'
import { address, fileOf, type MusicWish } from '@/api/client'
import { say } from '@/ui/notices'

type State = 'silent' | 'waiting' | 'playing'

/** How a piece begins, heard before it is made; another wish, or going away, stops it. */
export function useSample(project: string, wish: MusicWish): { state: State; play: () => void; stop: () => void } {
  const [state, setState] = useState<State>('silent')
  const now = useRef<{ control: AbortController; sound: AudioContext | null } | null>(null)
  const stop = () => {
    now.current?.control.abort()
    void now.current?.sound?.close()
    now.current = null
    setState('silent')
  }
  const key = JSON.stringify(wish)
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is wished is in the key
  useEffect(() => stop, [key])
  const play = async () => {
    stop()
    const mine = { control: new AbortController(), sound: null as AudioContext | null }
    now.current = mine
    setState('waiting')
    try {
      const file = await fileOf(address.madeMusic(project), wish, mine.control.signal)
      if (!file || now.current !== mine) return
      const sound = new AudioContext()
      mine.sound = sound
      const source = sound.createBufferSource()
      source.buffer = await sound.decodeAudioData(await file.arrayBuffer())
      if (now.current !== mine) return
      source.connect(sound.destination)
      source.onended = () => now.current === mine && stop()
      source.start()
      setState('playing')
    } catch (error) {
      if (now.current !== mine) return
      stop()
      say((error as Error).message, 'fault')
    }
  }
  return { state, play: () => void play(), stop }
}
