import { type KeyboardEvent, useRef } from 'react'
import { useSlide } from '@/interaction/drag'
import { stepFrames } from '@/playback/screen'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { frameText } from '@/project/times'

/** The film from start to end: drag to scrub; the scenes' bounds and the chosen scene are marked. */
export function ScrubBar({ onSeek }: { onSeek: (at: number, moving?: boolean) => void }) {
  const bar = useRef<HTMLDivElement>(null)
  const timeline = useProject((s) => s.timeline)
  const playhead = useSession((s) => s.playhead)
  const chosen = useSession((s) => s.chosenScenes)
  const length = Math.max(1, timeline.length)

  const seek = (x: number, moving: boolean) => {
    const rect = bar.current?.getBoundingClientRect()
    if (!rect) return
    const share = Math.max(0, Math.min(1, (x - rect.left) / rect.width))
    const frame = timeline.frame_ticks
    onSeek(Math.round((share * length) / frame) * frame, moving)
  }
  const from = useRef(0)
  const slide = useSlide({
    onStart: () => {
      from.current = playhead
    },
    onSlide: ([x], moving) => seek(x, moving),
    onGiveUp: () => onSeek(from.current),
  })
  const onKeyDown = (event: KeyboardEvent) => {
    const ways: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowDown: -1, ArrowUp: 1, PageUp: 30, PageDown: -30 }
    const way = ways[event.key]
    if (way === undefined) return
    event.preventDefault()
    event.stopPropagation()
    stepFrames(way * (event.shiftKey ? 10 : 1))
  }
  const percent = (at: number) => `${(100 * at) / length}%`
  return (
    <div
      ref={bar}
      role="slider"
      tabIndex={0}
      aria-label="Place in the film"
      aria-valuemin={0}
      aria-valuemax={timeline.frames}
      aria-valuenow={Math.floor(playhead / timeline.frame_ticks)}
      aria-valuetext={frameText(playhead, timeline.frame_ticks)}
      onKeyDown={onKeyDown}
      {...slide}
      className="relative mx-1 h-7 min-w-0 flex-1 cursor-pointer touch-none rounded"
    >
      <div className="absolute inset-x-0 top-[12px] h-1 overflow-hidden rounded-full bg-ridge">
        <div className="h-full bg-glow" style={{ width: percent(playhead) }} />
      </div>
      {timeline.spans.map((s) => (
        <div
          key={s.scene}
          className={`absolute top-[20px] h-[3px] rounded-full ${chosen.includes(s.scene) ? 'bg-chalk' : 'bg-scree'}`}
          style={{ left: `calc(${percent(s.hold_start)} + 1px)`, width: `calc(${percent(s.hold_end - s.hold_start)} - 2px)` }}
        />
      ))}
      <div className="absolute top-[5px] h-[18px] w-[3px] -translate-x-1/2 rounded-full bg-white" style={{ left: percent(playhead) }} />
    </div>
  )
}
