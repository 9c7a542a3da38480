import { Minus, Plus } from 'lucide-react'
import { type KeyboardEvent, type MouseEvent, useEffect, useMemo, useRef, useState } from 'react'
import type { EditOf, Heard, Song, SoundFile } from '@/api/client'
import { type Held, useDrag, useSlide } from '@/interaction/drag'
import { useTrial } from '@/interaction/trial'
import { inOrder } from '@/project/ordering'
import { edit } from '@/project/connection'
import { newId, useProject } from '@/project/project'
import { movePlayhead, useSession } from '@/project/session'
import { triedTimes } from '@/project/tried'
import { bySecond, pxOf, ruleOf, type TimeScale, ticksAt, ticksOf } from '@/project/time-scale'
import { clockText, TICKS, toSeconds } from '@/project/times'
import { IconButton } from '@/ui/button'
import { useWaveform, waveOutline } from './waveform'

const ROW = 92
const LEAST_ZOOM = 1
const MOST_ZOOM = 200
const RULE_PX = 70
const SNAP_PX = 8
const LOUDEST_DB = 12
const SOFTEST_DB = -36

type Part = 'body' | 'start' | 'end' | 'fade_in' | 'fade_out' | `point:${string}`

/** Where a song is taken hold of. */
const HANDLES: { part: Part; label: string; help: string; look: 'edge' | 'dot' }[] = [
  { part: 'start', label: 'Start', help: 'Trims it', look: 'edge' },
  { part: 'end', label: 'End', help: 'Trims it, or loops it to a length', look: 'edge' },
  { part: 'fade_in', label: 'Fade in', help: 'How long it fades in', look: 'dot' },
  { part: 'fade_out', label: 'Fade out', help: 'How long it fades out', look: 'dot' },
]

/** Songs under the film's scenes, in time: everything is dragged where it lies. */
export function Strip({ heard, chosen, onChoose }: { heard: Heard; chosen: string | null; onChoose: (song: string) => void }) {
  const songs = useProject((s) => s.document.songs)
  const sounds = useProject((s) => s.document.sounds)
  const scenes = useProject((s) => s.document.scenes)
  const timeline = useProject((s) => s.timeline)
  const area = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(900)
  const [zoom, setZoom] = useState<number | null>(null)
  const length = Math.max(timeline.length, ...heard.songs.map((s) => s.end), TICKS)
  const fitting = Math.max(LEAST_ZOOM, (width - 40) / toSeconds(length))
  const perSecond = Math.min(MOST_ZOOM, zoom ?? fitting)
  const scale = bySecond(perSecond)
  const px = (ticks: number) => pxOf(scale, ticks)
  useEffect(() => {
    const node = area.current
    if (!node) return
    const watch = new ResizeObserver(() => setWidth(node.clientWidth))
    watch.observe(node)
    return () => watch.disconnect()
  }, [])
  const order = inOrder(songs)
  const rule = ruleOf(scale, RULE_PX)
  const rules = useMemo(() => Array.from({ length: Math.floor(toSeconds(length) / rule) + 1 }, (_, i) => i * rule), [length, rule])
  const ruler = useRef<HTMLDivElement>(null)
  const slide = useSlide({ onSlide: ([x]) => movePlayhead(Math.max(0, Math.min(ticksAt(scale, x - (ruler.current?.getBoundingClientRect().left ?? 0)), length))) })
  return (
    <div className="relative min-h-0 flex-1">
      <div className="absolute bottom-3 right-4 z-10 flex rounded-lg border hairline bg-card shadow">
        <IconButton label="Zoom out" onClick={() => setZoom(Math.max(LEAST_ZOOM, perSecond / 1.5))}>
          <Minus size={15} />
        </IconButton>
        <button type="button" className="px-1.5 text-[12px]" onClick={() => setZoom(null)}>
          all
        </button>
        <IconButton label="Zoom in" onClick={() => setZoom(Math.min(MOST_ZOOM, perSecond * 1.5))}>
          <Plus size={15} />
        </IconButton>
      </div>
      <div ref={area} className="on-dark h-full overflow-auto bg-pit text-chalk">
        <div className="relative" style={{ width: Math.max(px(length) + 24, width) }}>
          <div ref={ruler} role="presentation" className="relative h-6 cursor-pointer touch-none border-b border-white/15" {...slide}>
            {rules.map((s) => (
              <span key={s} className="absolute top-0 border-l border-white/20 pl-1 font-mono text-[11px] text-ash" style={{ left: px(s * TICKS) }}>
                {clockText(s * TICKS, rule < 1 ? 1 : 0)}
              </span>
            ))}
          </div>
          <ol aria-label="Scenes in time" className="relative h-9 border-b border-white/15">
            {timeline.spans.map((s, i) => (
              <li
                key={s.scene}
                className={`absolute inset-y-1 truncate rounded-sm px-1 text-[11px] leading-7 ${i % 2 ? 'bg-white/12' : 'bg-white/20'}`}
                style={{ left: px((s.join_start + s.hold_start) / 2), width: Math.max(px((s.hold_end + s.end) / 2 - (s.join_start + s.hold_start) / 2) - 1, 1) }}
              >
                {i + 1} {scenes?.[s.scene]?.name}
              </li>
            ))}
          </ol>
          <ol aria-label="Songs" className="relative py-2">
            {order.map(([id, song]) => {
              const sound = sounds?.[song.sound]
              const place = heard.songs.find((s) => s.song === id)
              return sound && place ? (
                <Block
                  key={id}
                  id={id}
                  song={song}
                  sound={sound}
                  start={place.start}
                  end={place.end}
                  scale={scale}
                  on={id === chosen}
                  beats={heard.beats}
                  bars={heard.bars}
                  onChoose={() => onChoose(id)}
                />
              ) : null
            })}
          </ol>
          <Playhead px={px} />
        </div>
      </div>
    </div>
  )
}

function Playhead({ px }: { px: (ticks: number) => number }) {
  const playhead = useSession((s) => s.playhead)
  return <span aria-hidden="true" className="pointer-events-none absolute inset-y-0 w-px bg-white" style={{ left: px(playhead) }} />
}

type BlockProps = { id: string; song: Song; sound: SoundFile; start: number; end: number; scale: TimeScale; on: boolean; beats: number[]; bars: number[]; onChoose: () => void }

const levelY = (db: number) => ((LOUDEST_DB - Math.max(SOFTEST_DB, Math.min(LOUDEST_DB, db))) / (LOUDEST_DB - SOFTEST_DB)) * (ROW - 22)
const levelBy = (pixels: number) => (-pixels / (ROW - 22)) * (LOUDEST_DB - SOFTEST_DB)
const levelAt = (y: number) => LOUDEST_DB - (Math.max(0, Math.min(ROW - 22, y)) / (ROW - 22)) * (LOUDEST_DB - SOFTEST_DB)

/** A song with its waveform, beats, fades and level; its body moves it, its ends trim it, its upper corners fade it. */
function Block({ id, song: stored, sound, scale, on, beats, bars, onChoose, ...place }: BlockProps) {
  const trial = useTrial(triedTimes)
  // While it is dragged, as it would be.
  const song = trial.outcome?.songs[id] ?? stored
  const { start, end } = trial.outcome?.heard.songs.find((s) => s.song === id) ?? place
  const px = (time: number) => pxOf(scale, time)
  const ticks = (pixels: number) => Math.round(ticksOf(scale, pixels))
  const left = px(start)
  const width = Math.max(px(end) - px(start), 6)
  const fadeIn = px(song.fade_in ?? 0)
  const fadeOut = px(song.fade_out ?? 0)
  const points = Object.entries(song.points ?? {}).sort((a, b) => a[1].at - b[1].at)
  const dropped = (part: Part, from: [number, number], now: [number, number], held: Held): EditOf<'drag_song'> => ({
    edit: 'drag_song',
    id,
    part: part.startsWith('point:') ? 'point' : (part as EditOf<'drag_song'>['part']),
    point: part.startsWith('point:') ? part.slice(6) : null,
    by: ticks(now[0] - from[0]),
    louder: levelBy(now[1] - from[1]),
    snap: held.free ? 0 : ticks(SNAP_PX),
  })
  const drag = useDrag<Part>({
    onPress: onChoose,
    onTry: (...how) => trial.attempt([dropped(...how)]),
    onGiveUp: trial.end,
    onSet: (...how) => void edit(dropped(...how)).then(trial.end),
  })
  const nudge = (event: KeyboardEvent, part: Part) => {
    const way = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
    if (!way) return
    event.preventDefault()
    event.stopPropagation()
    const by = way * useProject.getState().timeline.frame_ticks * (event.shiftKey ? 10 : 1)
    void edit({ edit: 'drag_song', id, part: part as EditOf<'drag_song'>['part'], point: null, by, louder: 0, snap: 0 })
  }
  const addPoint = (event: MouseEvent) => {
    const box = event.currentTarget.getBoundingClientRect()
    void edit({ edit: 'add_level_point', id, point: newId(), at: Math.max(0, ticks(event.clientX - box.left)), level: Math.round(levelAt(event.clientY - box.top)) })
  }
  const count = Math.max(1, Math.min(3000, Math.round(width / 2)))
  const source = song.trim_start ?? 0
  const rest = (song.trim_end ?? sound.length) - source
  const peaks = useWaveform(song.sound, source, source + Math.min(rest, end - start), Math.max(1, Math.round(count * Math.min(1, rest / Math.max(1, end - start)))))
  const waveWidth = Math.min(width, px(rest))
  const line = points.map(([, p]) => `${px(p.at)},${levelY(p.level ?? 0)}`)
  const shown = beats.filter((b) => b >= start && b < end)
  const strong = new Set(bars)
  const dense = shown.length > width / 5
  return (
    <li className="relative" style={{ height: ROW }}>
      <div className={`absolute top-1 overflow-hidden rounded-md ${on ? 'bg-umber ring-2 ring-glow' : 'bg-peat'} ${song.muted ? 'opacity-45' : ''}`} style={{ left, width, height: ROW - 8 }}>
        <button {...drag('body')} type="button" aria-pressed={on} onClick={onChoose} onDoubleClick={addPoint} className="absolute inset-0 cursor-grab touch-none text-left">
          <span className="absolute bottom-0.5 left-2 truncate text-[11.5px]" style={{ maxWidth: width - 12 }}>
            {sound.name} <span className="text-ash">{clockText(end - start)}</span>
          </span>
        </button>
        <svg aria-hidden="true" className="pointer-events-none absolute inset-0" width={width} height={ROW - 8}>
          {Array.from({ length: Math.max(1, Math.ceil(width / Math.max(waveWidth, 1))) }, (_, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: passes of a loop have nothing but their number
            <path key={i} d={waveOutline(peaks, waveWidth, ROW - 26)} transform={`translate(${i * waveWidth} 0)`} fill={on ? '#e2a94a' : '#8d8577'} />
          ))}
          {shown.map(
            (b) =>
              (!dense || strong.has(b)) && (
                <line key={b} x1={px(b - start)} x2={px(b - start)} y1={strong.has(b) ? 0 : 4} y2={strong.has(b) ? 12 : 9} stroke="#77b9cf" strokeWidth={strong.has(b) ? 1.6 : 1} />
              ),
          )}
          <path d={`M0,${ROW - 26}L${fadeIn},0M${width},${ROW - 26}L${width - fadeOut},0`} stroke="#ece7dd" strokeWidth={1.2} fill="none" />
          {points.length > 0 && <polyline points={[`0,${line[0]?.split(',')[1]}`, ...line, `${width},${line.at(-1)?.split(',')[1]}`].join(' ')} stroke="#fff" strokeWidth={1.4} fill="none" />}
        </svg>
        {HANDLES.map(({ part, label, help, look }) => (
          <button
            key={part}
            {...drag(part)}
            type="button"
            aria-label={`${label} of ${sound.name}`}
            title={`${help}. Arrows move it by a frame, with Shift by ten`}
            onKeyDown={(e) => nudge(e, part)}
            className={`absolute cursor-ew-resize touch-none focus-visible:outline-water ${look === 'edge' ? `inset-y-0 w-2 hover:bg-white/25 focus-visible:bg-white/40 focus-visible:-outline-offset-2 ${part === 'start' ? 'left-0' : 'right-0'}` : 'top-0 size-3 -translate-x-1/2 rounded-full border-2 border-chalk bg-pit focus-visible:bg-glow focus-visible:-outline-offset-2'}`}
            style={part === 'fade_in' ? { left: Math.max(7, fadeIn) } : part === 'fade_out' ? { left: Math.min(width - 7, width - fadeOut) } : undefined}
          />
        ))}
        {points.map(([name, p], i) => (
          <button
            key={name}
            {...drag(`point:${name}`)}
            type="button"
            aria-label={`Level point ${i + 1}: ${(p.level ?? 0).toFixed(0)} dB`}
            title={`${(p.level ?? 0).toFixed(1)} dB; Delete takes it away`}
            onKeyDown={(e) => {
              if (e.key !== 'Delete' && e.key !== 'Backspace') return
              e.stopPropagation()
              void edit({ edit: 'set_songs', ids: [id], song: { points: Object.fromEntries(points.filter(([k]) => k !== name)) } })
            }}
            className="absolute size-3 -translate-x-1/2 -translate-y-1/2 cursor-move touch-none rounded-full bg-white"
            style={{ left: px(p.at), top: levelY(p.level ?? 0) }}
          />
        ))}
      </div>
    </li>
  )
}
