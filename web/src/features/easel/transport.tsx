import { BookImage, ChevronLeft, ChevronRight, Maximize, Pause, Play, Repeat } from 'lucide-react'
import { seek, startPlaying, stepFrames, stopPlaying, togglePlaying, useWaiting } from '@/playback/screen'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { frameText } from '@/project/times'
import { IconButton } from '@/ui/button'
import { toggleFullScreen } from './full-screen'
import { POSTER } from './poster'
import { ScrubBar } from './scrub-bar'

/** Playing, stepping, and the place in the film. */
export function Transport() {
  const playing = useSession((s) => s.playing)
  const loop = useSession((s) => s.loopScene)
  const timeline = useProject((s) => s.timeline)
  const toggleLoop = () => {
    useSession.setState({ loopScene: !loop })
    if (playing) {
      stopPlaying()
      startPlaying()
    }
  }
  return (
    <div className="flex h-[46px] shrink-0 items-center gap-2 bg-pit px-3">
      <button type="button" aria-label={playing ? 'Pause' : 'Play'} onClick={togglePlaying} className="grid size-8 shrink-0 place-items-center rounded-full bg-chalk text-night hover:bg-white">
        {playing ? <Pause size={15} fill="currentColor" /> : <Play size={15} fill="currentColor" className="ml-0.5" />}
      </button>
      <IconButton kind="dark" label="One frame back" onClick={() => stepFrames(-1)} className="!w-7">
        <ChevronLeft size={17} />
      </IconButton>
      <IconButton kind="dark" label="One frame on" onClick={() => stepFrames(1)} className="!w-7">
        <ChevronRight size={17} />
      </IconButton>
      <Now />
      <Waiting />
      <ScrubBar onSeek={seek} />
      <span className="font-mono text-[12.5px] text-ash">{frameText(timeline.length, timeline.frame_ticks)}</span>
      <button type="button" aria-pressed={loop} onClick={toggleLoop} className={`flex h-7 items-center gap-1.5 rounded-lg px-2 ${loop ? 'bg-glow text-night' : 'hover:bg-white/10'}`}>
        <Repeat size={14} /> Loop scene
      </button>
      <IconButton kind="dark" label={POSTER.label} onClick={POSTER.run} className="!w-7">
        <BookImage size={15} />
      </IconButton>
      <IconButton kind="dark" label="Full screen" onClick={toggleFullScreen}>
        <Maximize size={15} />
      </IconButton>
    </div>
  )
}

const WAITED_FOR = { sound: 'sound is being mixed…', pictures: 'pictures are being painted…' }

function Waiting() {
  const { waiting, smaller } = useWaiting()
  const told = waiting ? WAITED_FOR[waiting] : smaller && `${smaller} px for now`
  return (
    told && (
      <span
        role="status"
        title={waiting ? undefined : 'The machine is busy: the film plays with smaller pictures for a moment, so that no frame is missed. Exports are not touched.'}
        className="whitespace-nowrap text-[12px] text-glow"
      >
        {told}
      </span>
    )
  )
}

function Now() {
  const frame = useProject((s) => s.timeline.frame_ticks)
  const text = useSession((s) => frameText(s.playhead, frame))
  return (
    <span role="timer" aria-label="Playhead" title="minutes : seconds . frames" className="w-[58px] font-mono text-[12.5px]">
      {text}
    </span>
  )
}
