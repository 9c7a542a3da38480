import { Pause, Play } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { Screen, seek, stopPlaying, togglePlaying, useScreen, useWaiting } from '@/playback/screen'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { clockText } from '@/project/times'

/** The film, to be watched: pressed, it plays. */
export function Watch() {
  const project = useProject((s) => s.id)
  const revision = useProject((s) => s.revision)
  const frame = useProject((s) => s.document.frame)
  const length = useProject((s) => s.timeline.length)
  const playing = useSession((s) => s.playing)
  const playhead = useSession((s) => s.playhead)
  const waiting = useWaiting((s) => s.waiting)
  const canvas = useRef<HTMLCanvasElement>(null)
  const [begun, setBegun] = useState(false)
  const press = () => {
    // What is seen at first is where the film stands well; it plays from its beginning.
    if (!begun) seek(0)
    setBegun(true)
    togglePlaying()
  }
  useEffect(() => {
    const screen = new Screen(project)
    screen.attach('film', canvas.current)
    useScreen.setState({ screen })
    const first = useProject.getState().timeline.spans[0]
    useSession.setState({ looking: 'live', tried: null, lanesShown: false, playhead: first ? (first.hold_start + first.hold_end) / 2 : 0 })
    return () => {
      stopPlaying()
      useScreen.setState({ screen: null })
      screen.close()
      useSession.setState({ lanesShown: true })
    }
  }, [project])
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new revision is seen at once
  useEffect(() => useScreen.getState().screen?.refresh(false), [project, revision])
  return (
    <div className="overflow-hidden rounded-xl bg-surround">
      <button type="button" aria-label={playing ? 'Pause' : 'Play'} onClick={press} className="relative block w-full">
        <canvas
          ref={canvas}
          role="img"
          aria-label="The film at the playhead"
          className="mx-auto block max-h-[62vh] max-w-full"
          style={{ aspectRatio: (frame?.width ?? 16) / (frame?.height ?? 9), width: '100%', objectFit: 'contain' }}
        />
        {!playing && (
          <span className="absolute inset-x-0 bottom-[7%] grid place-items-center">
            <span className="grid size-16 place-items-center rounded-full bg-chalk/90 text-night">
              <Play size={30} fill="currentColor" className="ml-1" />
            </span>
          </span>
        )}
      </button>
      <div className="flex items-center gap-3 bg-pit px-3 py-2 text-chalk">
        <button type="button" aria-label={playing ? 'Pause the film' : 'Play the film'} onClick={press} className="grid size-10 shrink-0 place-items-center rounded-full bg-chalk text-night">
          {playing ? <Pause size={17} fill="currentColor" /> : <Play size={17} fill="currentColor" className="ml-0.5" />}
        </button>
        <input
          type="range"
          aria-label="Place in the film"
          min={0}
          max={Math.max(length, 1)}
          step="any"
          value={playhead}
          onChange={(e) => {
            setBegun(true)
            seek(Number(e.target.value), true)
          }}
          className="h-10 min-w-0 flex-1 accent-[var(--color-glow)]"
        />
        <span className="font-mono text-[13px]">
          {waiting ? 'wait…' : clockText(playhead, 0)} / {clockText(length, 0)}
        </span>
      </div>
    </div>
  )
}
