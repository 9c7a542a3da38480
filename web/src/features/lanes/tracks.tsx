import { ChevronDown, ChevronRight } from 'lucide-react'
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react'
import type { Edit, KeyRef } from '@/api/client'
import { useHeard } from '@/features/sound'
import { type Held, useDrag } from '@/interaction/drag'
import { seek } from '@/playback/screen'
import type { Lanes } from '@/playback/socket'
import { filmTime, ownTime, type SceneTime, sceneTime } from '@/project/scene-time'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { chooseKeys, tryEdits, useSession } from '@/project/session'
import { frameText } from '@/project/times'
import { chosenMarks, keyRef, laneRef, sameKey } from './actions'
import { draw } from './drawing'
import { beatsWithin, curveRange, type HandleEnd, handlesOf, handleTo, INSET, laneId, LABELS, NEAR_PX, RULER, snapped, type Track, tracksOf, heightOf } from './model'
import { fitted, pxAt, ticksAt, type TimeScale } from '@/project/time-scale'
import { Ruler } from './ruler'

type LaneTrack = Extract<Track, { kind: 'lane' }>
type Hit = { kind: 'key'; track: LaneTrack; ref: KeyRef; at: number; value: number } | { kind: 'handle'; track: LaneTrack; end: HandleEnd } | { kind: 'box' }

const MOST_BUTTONS = 240
const ANCHORED = { start: 'from the start', end: 'from the end', fraction: 'share of the time' }

const keyOf = (row: { container: string; layer: string | null; property: string }, id: string) => `${laneId(row)}/${id}`

/** Rows with their keys, drawn on a canvas; what can be chosen is there as buttons, too, for the keyboard and for readers. */
export function Tracks({ lanes }: { lanes: Lanes }) {
  const open = useSession((s) => s.openLanes)
  const chosenKeys = useSession((s) => s.chosenKeys)
  const chosenLayers = useSession((s) => s.chosenLayers)
  const timeline = useProject((s) => s.timeline)
  const time = sceneTime()
  const frame = timeline.frame_ticks * time.speed
  const tracks = useMemo(() => tracksOf(lanes, open), [lanes, open])
  const heard = useHeard()
  const { start, speed } = time
  const beats = useMemo(() => beatsWithin(heard, { start, speed }, lanes.length), [heard, start, speed, lanes.length])
  const [width, setWidth] = useState(400)
  const [height, setHeight] = useState(120)
  const [scroll, setScroll] = useState(0)
  const [range, setRange] = useState<[number, number] | null>(null)
  const [box, setBox] = useState<[number, number, number, number] | null>(null)
  const area = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const [from, to] = range ?? [0, lanes.length]
  const scale = fitted(from, to, width, INSET)
  const chosen = new Set(chosenKeys.map((k) => `${k.scene}/${k.layer ?? ''}/${k.property}/${k.key}`))
  const total = tracks.at(-1) ? (tracks.at(-1) as Track).top + (tracks.at(-1) as Track).height : 0

  useEffect(() => {
    const node = area.current
    if (!node) return
    const watch = new ResizeObserver(() => {
      setWidth(Math.max(80, node.clientWidth - LABELS))
      setHeight(node.clientHeight)
    })
    watch.observe(node)
    return () => watch.disconnect()
  }, [])
  useEffect(() => {
    if (canvas.current) draw(canvas.current, { tracks, scale, scroll, width, height, length: lanes.length, chosen, box, hold: [lanes.hold_from, lanes.hold_to] })
  })

  const yOf = (track: LaneTrack, value: number) => {
    const [low, high] = curveRange(track.row)
    return track.top + track.height - 8 - ((value - low) / (high - low)) * (track.height - 16)
  }
  const valueAt = (track: LaneTrack, y: number) => {
    const [low, high] = curveRange(track.row)
    return low + ((track.top + track.height - 8 - y) / (track.height - 16)) * (high - low)
  }
  /** Pixels of the rows: from the left of the time, from the top of the first row. */
  const inRows = (at: [number, number]): [number, number] => {
    const rect = area.current?.getBoundingClientRect()
    return [at[0] - (rect?.left ?? 0) - LABELS, at[1] - (rect?.top ?? 0) + (area.current?.scrollTop ?? 0)]
  }
  const hit = (event: PointerEvent): Hit => {
    const [x, y] = inRows([event.clientX, event.clientY])
    const track = tracks.find((t) => y >= t.top && y < t.top + t.height)
    if (track?.kind !== 'lane') return { kind: 'box' }
    let best: Hit = { kind: 'box' }
    let nearest = NEAR_PX + 1
    track.row.keys.forEach((key, index) => {
      const value = heightOf(track.row, key, lanes.length)
      const ky = track.open ? yOf(track, value) : track.top + track.height / 2
      const far = Math.hypot(pxAt(scale, key.at) - x, track.open ? ky - y : (ky - y) * 0.5)
      if (far < nearest) {
        nearest = far
        best = { kind: 'key', track, ref: keyRef(track.row, key.id), at: key.at, value }
      }
      if (track.open && chosen.has(keyOf(track.row, key.id)))
        for (const end of handlesOf(track.row, index, lanes.length)) {
          const away = Math.hypot(pxAt(scale, end.at) - x, yOf(track, end.value) - y)
          if (away < Math.min(nearest, NEAR_PX)) {
            nearest = away
            best = { kind: 'handle', track, end }
          }
        }
    })
    return best
  }
  const anchors = () => {
    const others = lanes.rows.flatMap((r) => r.keys.filter((k) => !chosen.has(keyOf(r, k.id))).map((k) => k.at))
    return [0, lanes.length, lanes.hold_from, lanes.hold_to, ownTime(useSession.getState().playhead, time), ...beats.map((b) => b.at), ...others]
  }
  const made = (what: Hit, from: [number, number], now: [number, number], held: Held): Edit[] => {
    const [x0, y0] = inRows(from)
    const [x, y] = inRows(now)
    if (what.kind === 'handle') {
      const to = handleTo(what.track.row, what.end, ticksAt(scale, x), valueAt(what.track, y), lanes.length)
      return [{ edit: 'set_keys', keys: [keyRef(what.track.row, what.end.key.id)], [what.end.side === 'out' ? 'ease_out' : 'ease_in']: to }]
    }
    if (what.kind !== 'key') return []
    const way = ticksAt(scale, x) - ticksAt(scale, x0)
    const upright = held.constrain && Math.abs(y - y0) > Math.abs(x - x0)
    const by = upright ? 0 : snapped(what.at + way, frame, anchors(), scale.perPx, held.free) - what.at
    const edits: Edit[] = []
    const keys = useSession.getState().chosenKeys
    const value = what.track.open && what.track.row.kind === 'number' && !(held.constrain && !upright) ? valueAt(what.track, y) - valueAt(what.track, y0) : 0
    const sameLane = keys.filter((k) => k.property === what.ref.property && k.layer === what.ref.layer && k.scene === what.ref.scene)
    if (by) edits.push({ edit: 'shift_keys', keys, by })
    if (value) edits.push({ edit: 'shift_keys', keys: sameLane, value })
    return edits
  }
  const boxed = (from: [number, number], now: [number, number]): KeyRef[] => {
    const [x0, y0] = inRows(from)
    const [x1, y1] = inRows(now)
    const inside = (x: number, y: number) => x >= Math.min(x0, x1) && x <= Math.max(x0, x1) && y >= Math.min(y0, y1) && y <= Math.max(y0, y1)
    return tracks.flatMap((t) =>
      t.kind === 'lane' ? t.row.keys.filter((k) => inside(pxAt(scale, k.at), t.open ? yOf(t, heightOf(t.row, k, lanes.length)) : t.top + t.height / 2)).map((k) => keyRef(t.row, k.id)) : [],
    )
  }
  const bind = useDrag<Hit>({
    onPress: (what, event) => {
      const more = event.shiftKey || event.ctrlKey || event.metaKey
      if (what.kind === 'key') {
        const has = useSession.getState().chosenKeys.some((k) => sameKey(k, what.ref))
        const last = useSession.getState().chosenKeys.at(-1)
        if (event.shiftKey && last && last.property === what.ref.property && last.layer === what.ref.layer && last.scene === what.ref.scene) {
          // From the key chosen last up to this one.
          const order = what.track.row.keys.map((k) => k.id)
          const [a, b] = [order.indexOf(last.key), order.indexOf(what.ref.key)].sort((m, n) => m - n) as [number, number]
          const range = order.slice(a, b + 1).map((id) => keyRef(what.track.row, id))
          const kept = useSession.getState().chosenKeys.filter((k) => !range.some((r) => sameKey(r, k)))
          chooseKeys([...kept, ...range])
        } else if (!has) chooseKeys(more ? [...useSession.getState().chosenKeys, what.ref] : [what.ref])
        else if (more) chooseKeys(useSession.getState().chosenKeys.filter((k) => !sameKey(k, what.ref)))
      } else if (what.kind === 'box' && !more) chooseKeys([])
    },
    onTap: (what, event) => {
      if (what.kind === 'key' && !event.shiftKey && !event.ctrlKey && !event.metaKey) chooseKeys([what.ref])
    },
    onTry: (what, from, now, held) => {
      if (what.kind === 'box') {
        const [x0, y0] = inRows(from)
        const [x1, y1] = inRows(now)
        setBox([x0, y0, x1, y1])
        return
      }
      const edits = made(what, from, now, held)
      tryEdits(edits.length ? edits : null)
    },
    onSet: (what, from, now, held) => {
      if (what.kind === 'box') {
        setBox(null)
        const found = boxed(from, now)
        const kept = held.constrain || held.free ? useSession.getState().chosenKeys : []
        chooseKeys([...kept, ...found.filter((f) => !kept.some((k) => sameKey(k, f)))])
        return
      }
      const edits = made(what, from, now, held)
      if (edits.length) void edit(...edits)
      else tryEdits(null)
    },
    onGiveUp: () => {
      setBox(null)
      tryEdits(null)
    },
  })
  const addHere = (event: PointerEvent | React.MouseEvent) => {
    const [x, y] = inRows([event.clientX, event.clientY])
    const track = tracks.find((t) => y >= t.top && y < t.top + t.height)
    if (track?.kind !== 'lane' || x < 0) return
    const at = Math.min(Math.max(Math.round(ticksAt(scale, x) / frame) * frame, 0), lanes.length)
    void edit({ edit: 'add_keys', lanes: [laneRef(track.row)], at: Math.round(filmTime(at, time)) })
  }
  const wheel = (event: React.WheelEvent) => {
    if (!event.ctrlKey && !event.shiftKey) return
    event.preventDefault()
    const [x] = inRows([event.clientX, event.clientY])
    const span = to - from
    if (event.ctrlKey) {
      const at = ticksAt(scale, x)
      const grown = Math.min(lanes.length, Math.max(frame * 10, span * (event.deltaY > 0 ? 1.25 : 0.8)))
      const from = Math.min(Math.max(0, at - ((at - scale.from) / span) * grown), lanes.length - grown)
      setRange(grown >= lanes.length ? null : [from, from + grown])
    } else if (range) {
      const by = Math.min(Math.max((event.deltaY / 400) * span, -range[0]), lanes.length - range[1])
      setRange([range[0] + by, range[1] + by])
    }
  }
  const count = lanes.rows.reduce((n, r) => n + r.keys.length, 0)
  const listed = lanes.rows.flatMap((row) => row.keys.filter((k) => count <= MOST_BUTTONS || chosen.has(keyOf(row, k.id))).map((key) => ({ row, key })))
  const focusable = chosenKeys.at(-1) ? chosenKeys.at(-1) : listed[0] && keyRef(listed[0].row, listed[0].key.id)

  const onKeyDown = (row: { container: string; layer: string | null; property: string }, id: string) => (event: KeyboardEvent) => {
    const laneIndex = lanes.rows.findIndex((r) => laneId(r) === laneId(row))
    const here = lanes.rows[laneIndex]
    const index = here?.keys.findIndex((k) => k.id === id) ?? -1
    if (!here || index < 0) return
    const go = (ref: KeyRef | null) => {
      if (!ref) return
      const kept = event.shiftKey ? useSession.getState().chosenKeys.filter((k) => !sameKey(k, ref)) : []
      chooseKeys([...kept, ref])
      requestAnimationFrame(() => document.getElementById(`key-${ref.scene}-${ref.layer ?? ''}-${ref.property}-${ref.key}`)?.focus())
    }
    const across = (way: number) => {
      const key = here.keys[index + way]
      go(key ? keyRef(here, key.id) : null)
    }
    const down = (way: number) => {
      const other = lanes.rows[laneIndex + way]
      const from = here.keys[index]?.at ?? 0
      const key = other?.keys.reduce((a, b) => (Math.abs(b.at - from) < Math.abs(a.at - from) ? b : a))
      go(other && key ? keyRef(other, key.id) : null)
    }
    const keys = useSession.getState().chosenKeys
    const many = event.shiftKey ? 10 : 1
    if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) void edit({ edit: 'shift_keys', keys, by: (event.key === 'ArrowLeft' ? -1 : 1) * frame * many })
    else if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      const step = here.scale * (here.unit === '°' || here.unit === '%' ? 1 : 0.01)
      void edit({ edit: 'shift_keys', keys: keys.filter((k) => k.property === here.property), value: (event.key === 'ArrowUp' ? 1 : -1) * step * many })
    } else if (event.key === 'ArrowLeft') across(-1)
    else if (event.key === 'ArrowRight') across(1)
    else if (event.key === 'ArrowUp') down(-1)
    else if (event.key === 'ArrowDown') down(1)
    else if (event.key === 'Home' || event.key === 'End') go(keyRef(here, (event.key === 'Home' ? here.keys[0] : here.keys.at(-1))?.id ?? id))
    else if (event.key === 'Enter') seek(filmTime(here.keys[index]?.at ?? 0, time))
    else if (event.key === ' ') chooseKeys([keyRef(here, id)])
    else return
    event.preventDefault()
    event.stopPropagation()
  }

  return (
    <div className="flex min-h-0 flex-1 flex-col" onWheel={wheel}>
      <Ruler lanes={lanes} scale={scale} to={to} beats={beats} marks={chosenMarks().map((m) => m.key.at)} left={LABELS} height={RULER} zoomed={range !== null} onFit={() => setRange(null)} />
      <div ref={area} className="relative min-h-0 flex-1 overflow-y-auto overflow-x-hidden" onScroll={(e) => setScroll(e.currentTarget.scrollTop)}>
        <div className="sticky top-0 h-0" style={{ marginLeft: LABELS }}>
          <canvas ref={canvas} className="pointer-events-none" style={{ width, height }} />
          {/* Cut off at the names: when only a part of the time is shown, the playhead may lie left of it. */}
          <div className="pointer-events-none absolute left-0 top-0 overflow-hidden" style={{ width, height, marginLeft: LABELS }}>
            <PlayheadLine scale={scale} time={time} height={height} />
          </div>
        </div>
        <div className="relative" style={{ height: Math.max(total, height - 4) }}>
          <div
            className="absolute inset-y-0 right-0 touch-none"
            style={{ left: LABELS }}
            data-testid="tracks"
            onPointerDown={(e) => bind(hit(e)).onPointerDown(e)}
            onPointerMove={bind({ kind: 'box' }).onPointerMove}
            onPointerUp={bind({ kind: 'box' }).onPointerUp}
            onPointerCancel={bind({ kind: 'box' }).onPointerCancel}
            onLostPointerCapture={bind({ kind: 'box' }).onLostPointerCapture}
            onDoubleClick={addHere}
          />
          {tracks.map((track) => (
            <Label key={track.id} track={track} chosen={track.kind === 'bars' ? chosenLayers.some((c) => c.layer === track.layer && c.scene === track.container) : chosenLayers.some((c) => c.layer === track.row.layer && c.scene === track.row.container)} />
          ))}
          {tracks.map((track) =>
            track.kind !== 'lane'
              ? null
              : track.row.keys
                  .filter((k) => count <= MOST_BUTTONS || chosen.has(keyOf(track.row, k.id)))
                  .map((key) => {
                    const ref = keyRef(track.row, key.id)
                    const x = LABELS + pxAt(scale, key.at)
                    const y = track.open ? yOf(track, heightOf(track.row, key, lanes.length)) : track.top + track.height / 2
                    const ease = key.ease === 'none' ? '' : `, ease ${key.ease}`
                    return (
                      <button
                        key={keyOf(track.row, key.id)}
                        id={`key-${ref.scene}-${ref.layer ?? ''}-${ref.property}-${ref.key}`}
                        type="button"
                        aria-label={`Keyframe of ${track.row.owner || 'the scene'}, ${track.row.label}, at ${frameText(key.at, frame)}, ${ANCHORED[key.anchor]}${ease}`}
                        aria-pressed={chosen.has(keyOf(track.row, key.id))}
                        tabIndex={focusable && sameKey(focusable, ref) ? 0 : -1}
                        onFocus={(e) => e.currentTarget.matches(':focus-visible') && !chosen.has(keyOf(track.row, key.id)) && chooseKeys([ref])}
                        onKeyDown={onKeyDown(track.row, key.id)}
                        className="pointer-events-none absolute size-3.5 -translate-x-1/2 -translate-y-1/2 rounded-full"
                        style={{ left: x, top: y }}
                      />
                    )
                  }),
          )}
          {!tracks.length && <p className="absolute inset-0 grid place-items-center px-8 text-center text-ash">Nothing moves in this scene yet. Press the round mark beside any number, choose a move, or record what you change.</p>}
        </div>
      </div>
    </div>
  )
}

/** The playhead over the rows: all that moves while the film plays. */
function PlayheadLine({ scale, time, height }: { scale: TimeScale; time: SceneTime; height: number }) {
  const playhead = useSession((s) => s.playhead)
  return <span className="pointer-events-none absolute top-0 w-[1.5px] -translate-x-1/2 bg-white" style={{ left: pxAt(scale, ownTime(playhead, time)), height }} />
}

/** What a row is of. */
function Label({ track, chosen }: { track: Track; chosen: boolean }) {
  const [container, layer, owner] = track.kind === 'bars' ? [track.container, track.layer, track.owner] : [track.row.container, track.row.layer, track.row.owner]
  const text = track.kind === 'bars' ? 'moves' : track.row.label.toLowerCase()
  const open = track.kind === 'lane' && track.open
  const toggle = () => {
    const now = useSession.getState().openLanes
    useSession.setState({ openLanes: now.includes(track.id) ? now.filter((i) => i !== track.id) : [...now, track.id] })
  }
  const choose = () => {
    if (layer !== null) useSession.setState({ chosenLayers: [{ scene: container, layer }], looking: useSession.getState().looking === 'views' ? 'live' : useSession.getState().looking })
    if (track.kind === 'lane') chooseKeys(track.row.keys.map((k) => keyRef(track.row, k.id)))
  }
  return (
    <div className="absolute left-0 flex items-start overflow-hidden bg-pit" style={{ top: track.top, height: track.height, width: LABELS }}>
      {track.kind === 'lane' ? (
        <button type="button" aria-expanded={open} aria-label={`Curve of ${owner || 'the scene'}, ${track.row.label}`} onClick={toggle} className="grid h-[26px] w-6 shrink-0 place-items-center text-ash hover:text-chalk">
          {open ? <ChevronDown size={12} /> : <ChevronRight size={12} />}
        </button>
      ) : (
        <span className="w-6 shrink-0" />
      )}
      <button type="button" title={track.kind === 'lane' ? 'Choose all keyframes of this lane' : undefined} onClick={choose} className="flex h-[26px] min-w-0 flex-1 items-center gap-1.5 text-left">
        {(track.first || track.kind === 'bars') && owner && <span className={`min-w-0 shrink truncate ${chosen ? 'text-glow' : ''}`}>{owner}</span>}
        <span className="shrink-0 truncate text-[12px] text-ash">{text}</span>
      </button>
    </div>
  )
}
