import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react'
import { useHeard } from '@/features/sound'
import { type Held, useDrag } from '@/interaction/drag'
import type { Lanes } from '@/playback/socket'
import { filmTime, ownTime, sceneTime } from '@/project/scene-time'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { chooseKeys, tryEdits, useSession } from '@/project/session'
import { chosenMarks, laneRef, sameKey } from './actions'
import { draw, type Strips } from './drawing'
import { beatsWithin, enlarged, INSET, LABELS, RULER, type Track, tracksOf, shifted } from './model'
import { fitted, ticksAt } from '@/project/time-scale'
import { boxed, draggedTo, type Hit, hit, keyOf, pressed } from './hitting'
import { KeyButtons } from './key-buttons'
import { Label, PlayheadLine } from './labels'
import { Ruler } from './ruler'

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
  const [range, setRange] = useState<[number, number] | null>(null)
  const [box, setBox] = useState<[number, number, number, number] | null>(null)
  const area = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const [from, to] = range ?? [0, lanes.length]
  const scale = useMemo(() => fitted(from, to, width, INSET), [from, to, width])
  const chosen = useMemo(() => new Set(chosenKeys.map((k) => `${k.scene}/${k.layer ?? ''}/${k.property}/${k.key}`)), [chosenKeys])
  const drawn = { tracks, scale, length: lanes.length, chosen }
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
  const strips = useRef<Strips>(new WeakMap())
  // Scrolling draws, and makes nothing else anew.
  const drawAgain = () => {
    const scroll = area.current?.scrollTop ?? 0
    if (canvas.current) draw(canvas.current, { ...drawn, scroll, width, height, box, hold: [lanes.hold_from, lanes.hold_to] }, strips.current)
  }
  useEffect(drawAgain)

  /** Pixels of the rows: from the left of the time, from the top of the first row. */
  const inRows = (at: [number, number]): [number, number] => {
    const rect = area.current?.getBoundingClientRect()
    return [at[0] - (rect?.left ?? 0) - LABELS, at[1] - (rect?.top ?? 0) + (area.current?.scrollTop ?? 0)]
  }
  const anchors = () => {
    const others = lanes.rows.flatMap((r) => r.keys.filter((k) => !chosen.has(keyOf(r, k.id))).map((k) => k.at))
    return [0, lanes.length, lanes.hold_from, lanes.hold_to, ownTime(useSession.getState().playhead, time), ...beats.map((b) => b.at), ...others]
  }
  const made = (what: Hit, from: [number, number], now: [number, number], held: Held) => draggedTo(what, { ...drawn, frame, anchors: anchors() }, inRows(from), inRows(now), held)
  const bind = useDrag<Hit>({
    onPress: (what, event) => {
      const more = event.shiftKey || event.ctrlKey || event.metaKey
      if (what.kind === 'key') {
        pressed(what, event.shiftKey, more)
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
        const found = boxed(drawn, inRows(from), inRows(now))
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
    setRange(event.ctrlKey ? enlarged([from, to], ticksAt(scale, x), event.deltaY > 0, frame * 10, lanes.length) : range && shifted(range, event.deltaY / 400, lanes.length))
  }

  return (
    <div className="flex min-h-0 flex-1 flex-col" onWheel={wheel}>
      <Ruler lanes={lanes} scale={scale} to={to} beats={beats} marks={chosenMarks().map((m) => m.key.at)} left={LABELS} height={RULER} zoomed={range !== null} onFit={() => setRange(null)} />
      <div ref={area} className="relative min-h-0 flex-1 overflow-y-auto overflow-x-hidden" onScroll={drawAgain}>
        <div className="sticky top-0 h-0" style={{ marginLeft: LABELS }}>
          <canvas ref={canvas} className="pointer-events-none" style={{ width, height }} />
          {/* Cut off at the names: when only a part of the time is shown, the playhead may lie left of it. */}
          <div className="pointer-events-none absolute left-0 top-0 overflow-hidden" style={{ width, height }}>
            <PlayheadLine scale={scale} time={time} height={height} />
          </div>
        </div>
        <div className="relative" style={{ height: Math.max(total, height - 4) }}>
          <div
            className="absolute inset-y-0 right-0 touch-none"
            style={{ left: LABELS }}
            data-testid="tracks"
            onPointerDown={(e) => bind(hit(drawn, inRows([e.clientX, e.clientY]))).onPointerDown(e)}
            onPointerMove={bind({ kind: 'box' }).onPointerMove}
            onPointerUp={bind({ kind: 'box' }).onPointerUp}
            onPointerCancel={bind({ kind: 'box' }).onPointerCancel}
            onLostPointerCapture={bind({ kind: 'box' }).onLostPointerCapture}
            onDoubleClick={addHere}
          />
          {tracks.map((track) => (
            <Label
              key={track.id}
              track={track}
              chosen={
                track.kind === 'bars'
                  ? chosenLayers.some((c) => c.layer === track.layer && c.scene === track.container)
                  : chosenLayers.some((c) => c.layer === track.row.layer && c.scene === track.row.container)
              }
            />
          ))}
          <KeyButtons drawn={drawn} lanes={lanes} frame={frame} time={time} />
          {!tracks.length && (
            <p className="absolute inset-0 grid place-items-center px-8 text-center text-ash">
              Nothing moves in this scene yet. Press the round mark beside any number, choose a move, or record what you change.
            </p>
          )}
        </div>
      </div>
    </div>
  )
}
