import { ChevronDown, ChevronRight, ChevronUp, Circle, Ghost, StepBack, StepForward } from 'lucide-react'
import { useGeometry } from '@/playback/screen'
import { useProject } from '@/project/project'
import { toggle, useSession } from '@/project/session'
import { toSeconds } from '@/project/times'
import { IconButton } from '@/ui/button'
import { type Sized, Splitter, useSize } from '@/ui/splitter'
import { stepToKey } from './actions'
import { Tracks } from './tracks'
import { later } from '@/ui/later'
import { hasCopied } from './actions'

const LANES: Sized = { name: 'lanes', label: 'Height of the lanes', usual: (room) => Math.min(300, room * 0.27), least: 96, most: 0.6, across: false }

const KeyBar = later<object>(() => import('./key-bar').then((m) => m.KeyBar))

/** The lanes of the chosen scene: what moves in it, over its time on screen. */
export function Lanes() {
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? null)
  const name = useProject((s) => (scene ? s.document.scenes?.[scene]?.name : ''))
  const shown = useSession((s) => s.lanesShown)
  const recording = useSession((s) => s.recording)
  const ghosts = useSession((s) => s.ghosts)
  const lanes = useGeometry((s) => (s.scene === scene ? s.geometry.lanes : undefined))
  const busy = useSession((s) => s.chosenKeys.length > 0)
  const height = useSize(LANES)
  const hold = lanes ? toSeconds(lanes.hold_to - lanes.hold_from) : 0
  return (
    <section aria-label="Lanes" id="lanes" className="relative flex shrink-0 flex-col border-t border-black/40 bg-pit text-chalk" style={{ height: shown ? height : 32 }}>
      {shown && <Splitter part={LANES} grows="after" className="absolute inset-x-0 -top-1 z-10 h-2" />}
      <header className="flex h-8 shrink-0 items-center gap-2 px-3">
        <button
          type="button"
          aria-expanded={shown}
          onClick={() => useSession.setState({ lanesShown: !shown })}
          className={`flex items-center gap-1 font-heading text-[14px] font-semibold ${busy ? 'max-w-[160px] min-w-[56px] shrink-[9]' : 'min-w-0'}`}
        >
          {shown ? <ChevronDown size={14} className="shrink-0" /> : <ChevronRight size={14} className="shrink-0" />}
          <span className="truncate">{name || 'Lanes'}</span>
        </button>
        {shown && (busy || hasCopied()) && <KeyBar />}
        <span className="flex-1" />
        {lanes && !busy && <span className="hidden whitespace-nowrap font-mono text-[11px] text-ash min-[1340px]:inline">{hold.toFixed(1)} s hold</span>}
        <IconButton size="tiny" kind="dark" label="To the keyframe before (Shift ,)" onClick={() => stepToKey(-1)}>
          <StepBack size={13} />
        </IconButton>
        <IconButton size="tiny" kind="dark" label="To the next keyframe (Shift .)" onClick={() => stepToKey(1)}>
          <StepForward size={13} />
        </IconButton>
        <button
          type="button"
          aria-pressed={ghosts}
          title="Outlines of the chosen layers a few frames before and after"
          onClick={() => toggle('ghosts')}
          className={`flex h-6 items-center gap-1 rounded-md px-1.5 ${ghosts ? 'bg-white/15' : 'hover:bg-white/10'}`}
        >
          <Ghost size={13} /> <span className={busy ? 'sr-only' : ''}>Ghosts</span>
        </button>
        <button
          type="button"
          aria-pressed={recording}
          title="What you change becomes keyframes at the playhead (R)"
          onClick={() => toggle('recording')}
          className={`flex h-6 items-center gap-1.5 whitespace-nowrap rounded-md px-2 ${recording ? 'bg-glow text-night' : 'hover:bg-white/10'}`}
        >
          <Circle size={9} fill="currentColor" /> {busy ? 'Record' : recording ? 'Recording changes' : 'Record changes'}
        </button>
      </header>
      {shown && lanes && <Tracks lanes={lanes} />}
      {shown && !lanes && (
        <p className="grid flex-1 place-items-center text-ash">
          {scene ? (
            <span role="status">What moves here is being worked out…</span>
          ) : (
            <span className="flex items-center gap-2">
              <ChevronUp size={14} /> Choose a scene to see what moves in it.
            </span>
          )}
        </p>
      )}
    </section>
  )
}
