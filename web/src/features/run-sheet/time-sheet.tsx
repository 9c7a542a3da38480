import { type KeyboardEvent, type MouseEvent, useEffect, useMemo, useRef, useState } from 'react'
import { address, type EditOf, type Heard, type Song, type Timeline } from '@/api/client'
import { chooseJoin } from '@/features/joins'
import { useHeard, useWaveform, waveOutline } from '@/features/sound'
import { type Held, useDrag } from '@/interaction/drag'
import { useTrial } from '@/interaction/trial'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { triedTimes } from '@/project/tried'
import { bySecond, pxOf, ticksOf } from '@/project/time-scale'
import { clockText, toSeconds } from '@/project/times'
import { Painted } from '@/ui/painted'

const LEAST = 6
const MOST = 160
const USUAL = 26
const WAVE = 40
const SNAP_PX = 8
const PICTURE_FROM = 34

/** Where each scene begins, and the film's end: the middle of each join. */
const boundsOf = (timeline: Timeline) => [0, ...timeline.spans.slice(1).map((s) => (s.join_start + s.hold_start) / 2), timeline.length]

type Props = { order: string[]; chosen: string[]; onClick: (id: string, event: MouseEvent) => void }

/** The run sheet to time: rows as high as they last, beside the music's waveform and beats; boundaries are dragged. */
export function TimeSheet({ order, chosen, onClick }: Props) {
  const songs = useProject((s) => s.document.songs)
  const stored = useProject((s) => s.timeline)
  const trial = useTrial(triedTimes)
  // While a boundary is dragged, the film as it would be.
  const timeline = trial.outcome?.timeline ?? stored
  const heard = useHeard()
  const [perSecond, setPerSecond] = useState(USUAL)
  const [dragged, setDragged] = useState<number | null>(null)
  const [view, setView] = useState({ top: 0, height: 800 })
  const area = useRef<HTMLDivElement>(null)
  const scale = useMemo(() => bySecond(perSecond), [perSecond])
  const px = (ticks: number) => pxOf(scale, ticks)
  const spans = timeline.spans
  const total = px(timeline.length)
  const bounds = useMemo(() => boundsOf(timeline), [timeline])
  useEffect(() => {
    const node = area.current
    if (!node) return
    const watch = new ResizeObserver(() => setView({ top: node.scrollTop, height: node.clientHeight }))
    watch.observe(node)
    return () => watch.disconnect()
  }, [])
  const last = chosen.at(-1)
  useEffect(() => {
    const index = order.indexOf(last ?? '')
    const node = area.current
    if (index < 0 || !node) return
    const top = pxOf(scale, bounds[index] ?? 0)
    const bottom = pxOf(scale, bounds[index + 1] ?? 0)
    if (top < node.scrollTop || bottom > node.scrollTop + node.clientHeight) node.scrollTop = Math.max(0, top - 60)
  }, [last, order, bounds, scale])

  const moved = (index: number, to: number, how: EditOf<'move_boundary'>['how'], snap = 0): EditOf<'move_boundary'> => ({
    edit: 'move_boundary',
    scene: order[index] ?? null,
    to: Math.max(0, Math.round(to)),
    how,
    snap: Math.round(snap),
  })
  const dropped = (index: number, from: [number, number], now: [number, number], held: Held) => {
    const to = (boundsOf(stored)[index] ?? 0) + ticksOf(scale, now[1] - from[1])
    return moved(index, to, held.copy ? 'slide' : held.constrain ? 'both' : 'along', held.free ? 0 : ticksOf(scale, SNAP_PX))
  }
  const drag = useDrag<number>({
    onTry: (index, from, now, held) => {
      setDragged(index)
      trial.attempt([dropped(index, from, now, held)])
    },
    onGiveUp: () => {
      setDragged(null)
      trial.end()
    },
    onSet: (index, from, now, held) => {
      setDragged(null)
      void edit(dropped(index, from, now, held)).then(trial.end)
    },
  })
  const nudge = (index: number) => (event: KeyboardEvent) => {
    const way = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0
    if (!way) return
    event.preventDefault()
    event.stopPropagation()
    void edit(moved(index, (bounds[index] ?? 0) + way * timeline.frame_ticks * (event.shiftKey ? 10 : 1), event.altKey ? 'both' : 'along'))
  }
  const seen = (top: number, bottom: number) => bottom > view.top - 200 && top < view.top + view.height + 200
  const strong = useMemo(() => new Set(heard.bars), [heard.bars])
  return (
    <>
      <div className="flex items-center gap-2 px-4 pb-1.5 text-[12px] text-soft">
        <label className="flex items-center gap-2">
          Height
          <input type="range" aria-label="Height of a second" min={LEAST} max={MOST} value={perSecond} onChange={(e) => setPerSecond(Number(e.target.value))} className="w-24 accent-[var(--brass)]" />
        </label>
        <span className="whitespace-nowrap" title="Drag a boundary; Shift changes both sides, Alt slides the scene after it, Ctrl leaves the beats alone">
          drag boundaries
        </span>
      </div>
      <div ref={area} className="min-h-0 flex-1 overflow-y-auto" onScroll={(e) => setView({ top: e.currentTarget.scrollTop, height: e.currentTarget.clientHeight })}>
        <div className="relative mb-8 ml-2 mr-1" style={{ height: total }}>
          <div aria-hidden="true" className="absolute inset-y-0 left-0" style={{ width: WAVE }}>
            {heard.songs.map((s) => songs?.[s.song] && <Wave key={s.song} song={songs[s.song] as Song} from={s.start} to={Math.min(s.end, timeline.length)} px={px} />)}
            <svg aria-hidden="true" className="absolute inset-0" width={WAVE} height={total}>
              {heard.beats.map((b) => {
                const y = px(b)
                const bar = strong.has(b)
                return (
                  seen(y, y) &&
                  y < total &&
                  (bar || perSecond > 14) && <line key={b} x1={bar ? 0 : WAVE - 9} x2={WAVE} y1={y} y2={y} stroke={bar ? 'var(--tarn)' : 'var(--soft)'} strokeWidth={bar ? 1.4 : 0.8} />
                )
              })}
            </svg>
          </div>
          <ol aria-label="Scenes" className="absolute inset-y-0 right-0" style={{ left: WAVE + 4 }}>
            {order.map((id, i) => {
              const top = px(bounds[i] ?? 0)
              const height = px((bounds[i + 1] ?? 0) - (bounds[i] ?? 0))
              const span = spans[i]
              return (
                span &&
                seen(top, top + height) && (
                  <SceneBlock
                    key={id}
                    id={id}
                    number={i + 1}
                    count={order.length}
                    top={top}
                    height={height}
                    hold={span.hold_end - span.hold_start}
                    chosen={chosen.includes(id)}
                    tabbable={id === (last ?? order[0])}
                    onClick={onClick}
                  />
                )
              )
            })}
          </ol>
          {bounds.slice(1).map((b, n) => {
            const index = n + 1
            const y = px(b)
            const scene = order[index]
            const span = spans[index]
            if (!seen(y, y)) return null
            return <Boundary key={scene ?? 'end'} index={index} at={b} y={y} scene={scene} join={span ? px(span.hold_start - span.join_start) : 0} handle={drag(index)} onKeyDown={nudge(index)} />
          })}
          {dragged !== null && (
            <div aria-hidden="true" className="pointer-events-none absolute inset-x-0 z-20 border-t-2 border-brass" style={{ top: px(bounds[dragged] ?? 0) }}>
              <span className="absolute right-1 rounded bg-brass px-1.5 font-mono text-[11px] text-on-ink">{clockText(bounds[dragged] ?? 0, 2)}</span>
            </div>
          )}
          <Now px={px} />
        </div>
      </div>
    </>
  )
}

type SceneBlockProps = { id: string; number: number; count: number; top: number; height: number; hold: number; chosen: boolean; tabbable: boolean; onClick: (id: string, event: MouseEvent) => void }

/** A scene as high as it lasts. */
function SceneBlock({ id, number, count, top, height, hold, chosen, tabbable, onClick }: SceneBlockProps) {
  const project = useProject((s) => s.id)
  const name = useProject((s) => s.document.scenes?.[id]?.name)
  const mark = useProject((s) => s.marks[id])
  return (
    <li aria-posinset={number} aria-setsize={count} className="absolute inset-x-0" style={{ top, height }}>
      <button
        type="button"
        data-scene={id}
        tabIndex={tabbable ? 0 : -1}
        aria-pressed={chosen}
        onClick={(e) => onClick(id, e)}
        className={`flex h-[calc(100%-2px)] w-full items-start gap-1.5 overflow-hidden rounded-md border px-1.5 text-left ${chosen ? 'border-brass/60 bg-card shadow-sm' : 'border-transparent bg-deep/70 hover:bg-deep'}`}
      >
        <span className="w-4 shrink-0 pt-0.5 font-mono text-[11px] text-soft">
          <span className="sr-only">Scene </span>
          {number}
        </span>
        {height > PICTURE_FROM && mark && (
          <Painted src={address.end(project, id, 'opening', mark)} alt="" className="mt-1 max-h-[52px] rounded-[2px]" style={{ maxHeight: Math.min(52, height - 10) }} />
        )}
        {height > 11 && (
          <span className="min-w-0 flex-1 pt-0.5 leading-tight">
            <span className="block truncate text-[12.5px] font-semibold">{name || 'Scene'}</span>
            {height > 30 && <span className="font-mono text-[11.5px] text-soft">{toSeconds(hold).toFixed(2)}s</span>}
          </span>
        )}
      </button>
    </li>
  )
}

type BoundaryProps = { index: number; at: number; y: number; scene: string | undefined; join: number; handle: object; onKeyDown: (event: KeyboardEvent) => void }

/** Where one scene gives way to the next, or the film ends: it is dragged. `join`: how long the join is drawn, in pixels. */
function Boundary({ index, at, y, scene, join, handle, onKeyDown }: BoundaryProps) {
  return (
    <div className="absolute inset-x-0" style={{ top: y }}>
      {join > 0 && <span aria-hidden="true" className="pointer-events-none absolute -right-0.5 w-1.5 rounded-full bg-lichen/50" style={{ top: -join / 2, height: join }} />}
      {scene && (
        <button
          type="button"
          aria-label={`Join into scene ${index + 1}`}
          onClick={() => chooseJoin({ at: 'scene', scene })}
          className="absolute right-2 z-10 -translate-y-1/2 rounded-full border hairline bg-paper px-1.5 font-mono text-[10.5px] leading-4 text-lichen opacity-0 hover:opacity-100 focus-visible:opacity-100"
        >
          {joinName(scene)}
        </button>
      )}
      <div
        {...handle}
        role="slider"
        tabIndex={0}
        aria-orientation="vertical"
        aria-label={scene ? `Boundary between scenes ${index} and ${index + 1}` : 'End of the film'}
        aria-valuenow={Math.round(toSeconds(at) * 100) / 100}
        aria-valuetext={`${toSeconds(at).toFixed(2)} seconds`}
        onKeyDown={onKeyDown}
        className="absolute inset-x-0 -top-[5px] h-[10px] cursor-ns-resize touch-none rounded hover:bg-brass/25 focus-visible:bg-brass/30"
      />
    </div>
  )
}

function joinName(scene: string): string {
  const kind = useProject.getState().applied[scene]?.join?.kind
  return (
    catalogue()
      .joins.find((j) => j.id === kind)
      ?.label.toLowerCase() ?? ''
  )
}

function Wave({ song, from, to, px }: { song: Song; from: Heard['songs'][number]['start']; to: number; px: (ticks: number) => number }) {
  const sound = useProject((s) => s.document.sounds?.[song.sound])
  const source = song.trim_start ?? 0
  const rest = Math.max(0, Math.min((song.trim_end ?? sound?.length ?? 0) - source, to - from))
  const height = px(rest)
  const peaks = useWaveform(song.sound, source, source + rest, Math.max(1, Math.min(3000, Math.round(height / 2))))
  return (
    <svg aria-hidden="true" className="absolute left-0" style={{ top: px(from) }} width={WAVE} height={Math.max(1, height)}>
      <path d={waveOutline(peaks, height, WAVE - 10, true)} fill="var(--brass)" opacity={0.45} />
    </svg>
  )
}

function Now({ px }: { px: (ticks: number) => number }) {
  const playhead = useSession((s) => s.playhead)
  return <span aria-hidden="true" className="pointer-events-none absolute inset-x-0 border-t border-rowan" style={{ top: px(playhead) }} />
}
