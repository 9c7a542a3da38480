import type { KeyMark } from '@/playback/socket'
import { pxAt, type TimeScale } from '@/project/time-scale'
import { curveRange, handlesOf, type Track, heightOf } from './model'

const BRASS = '#e2a94a'
const WATER = '#77b9cf'
const ASH = '#8b857a'
const LICHEN = '#9dbb8f'

export type Look = {
  tracks: Track[]
  scale: TimeScale
  scroll: number
  width: number
  height: number
  length: number
  chosen: Set<string>
  box: [number, number, number, number] | null
  hold: [number, number]
}

/** Marks: round = keyframe, full = no ease, half-filled = eased on that side, square = hold. */
export function mark(c: CanvasRenderingContext2D, x: number, y: number, key: KeyMark, before: KeyMark | undefined, chosen: boolean): void {
  const r = 5
  const eased = (e: [number, number]) => e[0] !== e[1]
  const left = Boolean(before && !before.hold && (before.follow || eased(key.ease_in)))
  const right = Boolean(!key.hold && (key.follow || eased(key.ease_out)))
  c.lineWidth = 1.6
  c.strokeStyle = BRASS
  // What its time counts from: a foot towards the start, the end, or both.
  c.fillStyle = '#b3aca0'
  const [from, to] = key.anchor === 'start' ? [x - 5, x] : key.anchor === 'end' ? [x, x + 5] : [x - 5, x + 5]
  c.fillRect(from, y + r + 3, to - from, 1.5)
  if (chosen) {
    c.beginPath()
    c.arc(x, y, r + 3.2, 0, 7)
    c.strokeStyle = '#fff'
    c.stroke()
    c.strokeStyle = BRASS
  }
  if (key.hold) {
    c.fillStyle = BRASS
    c.fillRect(x - r + 0.5, y - r + 0.5, 2 * r - 1, 2 * r - 1)
    return
  }
  c.beginPath()
  c.arc(x, y, r, 0, 7)
  c.fillStyle = '#1f1f1d'
  c.fill()
  c.fillStyle = BRASS
  if (left === right) {
    c.beginPath()
    c.arc(x, y, left ? r * 0.52 : r, 0, 7)
    c.fill()
  } else {
    c.beginPath()
    c.arc(x, y, r, left ? Math.PI / 2 : -Math.PI / 2, left ? -Math.PI / 2 : Math.PI / 2)
    c.fill()
  }
  c.beginPath()
  c.arc(x, y, r, 0, 7)
  c.stroke()
}

function bar(c: CanvasRenderingContext2D, x0: number, x1: number, y: number, colour: string, text: string): void {
  c.fillStyle = `${colour}38`
  c.strokeStyle = colour
  c.lineWidth = 1
  c.beginPath()
  c.roundRect(x0, y - 8, Math.max(6, x1 - x0), 16, 5)
  c.fill()
  c.stroke()
  c.save()
  c.clip()
  c.fillStyle = '#ece7dd'
  c.font = '11px "Hanken Grotesk Variable", sans-serif'
  c.fillText(text, x0 + 7, y + 4)
  c.restore()
}

type LaneTrack = Extract<Track, { kind: 'lane' }>

function curve(c: CanvasRenderingContext2D, track: LaneTrack, look: Drawn): void {
  const { row, height } = track
  const values = row.curve?.values ?? []
  const speeds = row.curve?.speeds ?? []
  if (!values.length) return
  const [low, high] = curveRange(row)
  const y = heightIn(track)
  const x = (i: number) => pxAt(look.scale, (look.length * i) / (values.length - 1))
  c.strokeStyle = '#3a3733'
  c.lineWidth = 1
  for (const share of [0, 0.5, 1]) {
    c.beginPath()
    c.moveTo(0, y(low + (high - low) * share))
    c.lineTo(look.width, y(low + (high - low) * share))
    c.stroke()
  }
  const fastest = Math.max(1e-9, ...speeds.map(Math.abs))
  c.setLineDash([4, 3])
  c.strokeStyle = WATER
  c.beginPath()
  for (const [i, v] of speeds.entries()) c.lineTo(x(i), height - 8 - (Math.abs(v) / fastest) * (height - 16) * 0.9)
  c.stroke()
  c.setLineDash([])
  c.strokeStyle = BRASS
  c.lineWidth = 2
  c.beginPath()
  for (const [i, v] of values.entries()) c.lineTo(x(i), y(v))
  c.stroke()
  row.keys.forEach((key, index) => {
    mark(c, pxAt(look.scale, key.at), y(heightOf(row, key, look.length)), key, row.keys[index - 1], look.chosen.has(`${track.id}/${key.id}`))
  })
}

/** Pixels from the top of an open lane at which a value is drawn. */
function heightIn({ row, height }: LaneTrack): (value: number) => number {
  const [low, high] = curveRange(row)
  return (value) => height - 8 - ((value - low) / (high - low)) * (height - 16)
}

/** Handles of an open lane's chosen keys. They may reach into other rows, so they are drawn over all of them. */
function handles(c: CanvasRenderingContext2D, track: LaneTrack, top: number, look: Drawn): void {
  const { row } = track
  if (!row.curve?.values?.length) return
  const inside = heightIn(track)
  const y = (value: number) => top + inside(value)
  row.keys.forEach((key, index) => {
    if (!look.chosen.has(`${track.id}/${key.id}`)) return
    const at = [pxAt(look.scale, key.at), y(heightOf(row, key, look.length))] as const
    for (const end of handlesOf(row, index, look.length)) {
      const [hx, hy] = [pxAt(look.scale, end.at), y(end.value)]
      c.strokeStyle = '#ece7dd'
      c.lineWidth = 1
      c.beginPath()
      c.moveTo(at[0], at[1])
      c.lineTo(hx, hy)
      c.stroke()
      c.fillStyle = '#ece7dd'
      c.beginPath()
      c.arc(hx, hy, 4, 0, 7)
      c.fill()
    }
    mark(c, at[0], at[1], key, row.keys[index - 1], true)
  })
}

/** What a row is drawn by, besides itself. */
type Drawn = Pick<Look, 'scale' | 'width' | 'length' | 'chosen'> & { ratio: number }

/** Rows as they were drawn last: whoever scrolls sees them again. A row whose keys change is another one. */
export type Strips = WeakMap<Track, { strip: HTMLCanvasElement; by: Drawn }>

function sized(canvas: HTMLCanvasElement, width: number, height: number, ratio: number): CanvasRenderingContext2D | null {
  const [w, h] = [Math.round(width * ratio), Math.round(height * ratio)]
  if (canvas.width !== w || canvas.height !== h) Object.assign(canvas, { width: w, height: h })
  const c = canvas.getContext('2d')
  c?.setTransform(ratio, 0, 0, ratio, 0, 0)
  c?.clearRect(0, 0, width, height)
  return c
}

/** Draws what is in sight of all rows. */
export function draw(canvas: HTMLCanvasElement, look: Look, strips: Strips): void {
  const by: Drawn = { scale: look.scale, width: look.width, length: look.length, chosen: look.chosen, ratio: window.devicePixelRatio || 1 }
  const [w, h] = [look.width, look.height]
  const c = sized(canvas, w, h, by.ratio)
  if (!c) return
  // What lies outside the hold belongs to the joins: a little darker.
  c.fillStyle = '#00000030'
  c.fillRect(0, 0, Math.max(0, pxAt(look.scale, look.hold[0])), h)
  c.fillRect(pxAt(look.scale, look.hold[1]), 0, w, h)
  for (const track of look.tracks) {
    const top = track.top - look.scroll
    if (top > h || top + track.height < 0) continue
    c.drawImage(stripOf(track, by, strips), 0, Math.round(top * by.ratio) / by.ratio, w, track.height)
  }
  for (const track of look.tracks) if (track.kind === 'lane' && track.open) handles(c, track, track.top - look.scroll, by)
  if (look.box) {
    const [x0, y0, x1, y1] = look.box
    c.strokeStyle = '#ece7dd'
    c.setLineDash([3, 3])
    c.strokeRect(Math.min(x0, x1), Math.min(y0, y1) - look.scroll, Math.abs(x1 - x0), Math.abs(y1 - y0))
    c.setLineDash([])
  }
}

function stripOf(track: Track, by: Drawn, strips: Strips): HTMLCanvasElement {
  const known = strips.get(track)
  if (known && (Object.keys(by) as (keyof Drawn)[]).every((name) => known.by[name] === by[name])) return known.strip
  const strip = known?.strip ?? document.createElement('canvas')
  const c = sized(strip, by.width, track.height, by.ratio)
  if (c) drawRow(c, track, by)
  strips.set(track, { strip, by })
  return strip
}

function drawRow(c: CanvasRenderingContext2D, track: Track, look: Drawn): void {
  c.strokeStyle = track.first ? '#4a463f' : '#33312d'
  c.lineWidth = 1
  c.beginPath()
  c.moveTo(0, 0.5)
  c.lineTo(look.width, 0.5)
  c.stroke()
  if (track.kind === 'bars') {
    for (const b of track.bars) bar(c, pxAt(look.scale, b.first), pxAt(look.scale, b.last), track.height / 2, b.slot === 'move' ? ASH : b.slot === 'stop' ? WATER : LICHEN, b.label)
    return
  }
  if (track.open) {
    curve(c, track, look)
    return
  }
  const y = track.height / 2
  const keys = track.row.keys
  if (keys.length > 1) {
    c.strokeStyle = '#6b655a'
    c.lineWidth = 2.5
    c.beginPath()
    c.moveTo(pxAt(look.scale, keys[0]?.at ?? 0), y)
    c.lineTo(pxAt(look.scale, keys.at(-1)?.at ?? 0), y)
    c.stroke()
  }
  let last = -100
  keys.forEach((key, index) => {
    const x = pxAt(look.scale, key.at)
    const chosen = look.chosen.has(`${track.id}/${key.id}`)
    // Many keys in little room are drawn as one: what cannot be told apart need not be.
    if (x - last < 2.5 && !chosen) return
    last = x
    if (x > -10 && x < look.width + 10) mark(c, x, y, key, keys[index - 1], chosen)
  })
}
