import type { EditOf } from '@/api/client'
import { useRef } from 'react'
import { useDrag, useSlide } from '@/interaction/drag'
import { seek } from '@/playback/screen'
import type { Lanes } from '@/playback/socket'
import { filmTime, ownTime, sceneTime } from '@/project/scene-time'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { tryEdits, useSession } from '@/project/session'
import { TICKS, toSeconds } from '@/project/times'
import { pxAt, ruleOf, ticksAt, type TimeScale } from '@/project/time-scale'
import type { Beat } from './model'

type Props = { lanes: Lanes; scale: TimeScale; to: number; beats: Beat[]; marks: number[]; left: number; height: number; zoomed: boolean; onFit: () => void }

const LEAST_RULE_PX = 46

/** The scene's time: drag to scrub; a bracket over the chosen keys stretches them. */
export function Ruler({ lanes, scale, to, beats, marks, left, height, zoomed, onFit }: Props) {
  const playhead = ownTime(useSession((s) => s.playhead))
  const bar = useRef<HTMLDivElement>(null)
  const frame = useProject((s) => s.timeline.frame_ticks) * sceneTime().speed
  const first = Math.min(...marks)
  const last = Math.max(...marks)
  const stretchable = marks.length > 1 && last > first
  const at = (clientX: number) => {
    const rect = bar.current?.getBoundingClientRect()
    return Math.min(Math.max(Math.round(Math.round(ticksAt(scale, clientX - (rect?.left ?? 0)) / frame) * frame), 0), lanes.length)
  }
  const from = useRef(0)
  const slide = useSlide({
    onStart: () => {
      from.current = useSession.getState().playhead
    },
    onSlide: ([x], moving) => seek(filmTime(Math.min(at(x), lanes.length - frame)), moving),
    onGiveUp: () => seek(from.current),
  })
  const made = (side: 'first' | 'last', start: [number, number], now: [number, number]): EditOf<'stretch_keys'> => {
    const to = (side === 'first' ? first : last) + at(now[0]) - at(start[0])
    return { edit: 'stretch_keys', keys: useSession.getState().chosenKeys, first, last, to_first: side === 'first' ? to : first, to_last: side === 'last' ? to : last }
  }
  // While a stretch is tried the marks move: what it began with counts.
  const held = useRef({ first, last })
  const bind = useDrag<'first' | 'last'>({
    onPress: () => {
      held.current = { first, last }
    },
    onTry: (side, start, now) => tryEdits([{ ...made(side, start, now), ...fixed(held.current, side, at(now[0]) - at(start[0])) }]),
    onSet: (side, start, now) => void edit({ ...made(side, start, now), ...fixed(held.current, side, at(now[0]) - at(start[0])) }),
    onGiveUp: () => tryEdits(null),
  })
  const step = ruleOf(scale, LEAST_RULE_PX)
  const ticks: number[] = []
  for (let t = Math.ceil(toSeconds(scale.from) / step) * step; t <= toSeconds(to) + 1e-6; t += step) ticks.push(t)
  return (
    <div className="flex shrink-0 border-b border-white/10" style={{ height }}>
      <span className="flex items-center justify-end pr-2 text-[11px] text-ash" style={{ width: left }}>
        {zoomed && (
          <button type="button" className="rounded px-1.5 hover:bg-white/10" onClick={onFit}>
            whole scene
          </button>
        )}
      </span>
      <div
        ref={bar}
        role="slider"
        tabIndex={0}
        aria-label="Time in the scene"
        aria-valuemin={0}
        aria-valuemax={Math.round(toSeconds(lanes.length) * 100) / 100}
        aria-valuenow={Math.round(toSeconds(Math.min(Math.max(playhead, 0), lanes.length)) * 100) / 100}
        onKeyDown={(e) => {
          const way = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0
          if (!way) return
          e.preventDefault()
          e.stopPropagation()
          // From where the playhead is now: keys may come faster than this is drawn.
          const now = ownTime(useSession.getState().playhead)
          seek(filmTime(Math.min(Math.max(now + way * frame * (e.shiftKey ? 10 : 1), 0), lanes.length - frame)))
        }}
        {...slide}
        className="relative flex-1 cursor-pointer touch-none overflow-hidden"
      >
        {ticks.map((t) => (
          <span key={t} className="absolute top-1 font-mono text-[10px] text-ash" style={{ left: pxAt(scale, t * TICKS) }}>
            <span className="absolute -top-1 left-0 h-2 w-px bg-white/25" /> <span className="ml-1">{t < 10 && step < 1 ? t.toFixed(1) : Math.round(t)}</span>
          </span>
        ))}
        {beats.map((b) => (
          <span key={b.at} data-beat={b.bar ? 'bar' : 'beat'} className={`absolute bottom-0 w-px bg-water ${b.bar ? 'h-2' : 'h-1 opacity-60'}`} style={{ left: pxAt(scale, b.at) }} />
        ))}
        <span className="absolute top-0 h-full w-[7px] -translate-x-1/2 rounded-b bg-white" style={{ left: pxAt(scale, playhead), height: 9 }} />
        {stretchable && (
          <div className="pointer-events-none absolute bottom-0 h-2 border-x-0 border-t-2 border-glow" style={{ left: pxAt(scale, first), width: pxAt(scale, last) - pxAt(scale, first) }}>
            {(['first', 'last'] as const).map((side) => (
              <button
                key={side}
                type="button"
                aria-label={side === 'first' ? 'Stretch the chosen keyframes from their start' : 'Stretch the chosen keyframes from their end'}
                {...bind(side)}
                onKeyDown={(e) => {
                  const way = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0
                  if (!way) return
                  e.preventDefault()
                  e.stopPropagation()
                  const by = way * frame * (e.shiftKey ? 10 : 1)
                  void edit({ edit: 'stretch_keys', keys: useSession.getState().chosenKeys, first, last, to_first: first + (side === 'first' ? by : 0), to_last: last + (side === 'last' ? by : 0) })
                }}
                className={`pointer-events-auto absolute -top-1.5 h-3.5 w-2.5 cursor-ew-resize touch-none rounded-sm bg-glow ${side === 'first' ? '-left-1.5' : '-right-1.5'}`}
              />
            ))}
          </div>
        )}
      </div>
    </div>
  )
}

function fixed(held: { first: number; last: number }, side: 'first' | 'last', by: number) {
  return { first: held.first, last: held.last, to_first: held.first + (side === 'first' ? by : 0), to_last: held.last + (side === 'last' ? by : 0) }
}
