import type { Heard } from '@/api/client'
import type { Bar, KeyMark, LaneRow, Lanes } from '@/playback/socket'
import { ownTime, type SceneTime } from '@/project/scene-time'

export const ROW = 26
export const OPEN_ROW = 148
export const RULER = 26
export const LABELS = 168
/** Room at both ends of the time, so that marks there can be taken. */
export const INSET = 12
export const NEAR_PX = 8

export type Track = { id: string; top: number; height: number; first: boolean } & (
  | { kind: 'bars'; owner: string; container: string; layer: string | null; bars: Bar[] }
  | { kind: 'lane'; row: LaneRow; open: boolean }
)

export const laneId = (r: { container: string; layer: string | null; property: string }) => `${r.container}/${r.layer ?? ''}/${r.property}`

/** Rows from top to bottom: for each owner its bars, then its lanes. */
export function tracksOf(lanes: Lanes, opened: string[]): Track[] {
  const owners: { key: string; container: string; layer: string | null; owner: string; bars: Bar[]; rows: LaneRow[] }[] = []
  const of = (x: { container: string; layer: string | null; owner: string }) => {
    const key = `${x.container}/${x.layer ?? ''}`
    let found = owners.find((o) => o.key === key)
    if (!found) {
      found = { key, container: x.container, layer: x.layer, owner: x.owner, bars: [], rows: [] }
      owners.push(found)
    }
    return found
  }
  for (const row of lanes.rows) of(row).rows.push(row)
  for (const bar of lanes.bars) of(bar).bars.push(bar)
  const tracks: Track[] = []
  let top = 0
  for (const owner of owners) {
    let first = true
    if (owner.bars.length) {
      tracks.push({ kind: 'bars', id: `${owner.key}/bars`, owner: owner.owner, container: owner.container, layer: owner.layer, bars: owner.bars, top, height: ROW, first })
      top += ROW
      first = false
    }
    for (const row of owner.rows) {
      const open = opened.includes(laneId(row))
      const height = open ? OPEN_ROW : ROW
      tracks.push({ kind: 'lane', id: laneId(row), row, open, top, height, first })
      top += height
      first = false
    }
  }
  return tracks
}

export type Beat = { at: number; bar: boolean }

/** The music's beats while a scene is on screen, in ticks of its own time. */
export function beatsWithin(heard: Heard, time: SceneTime, length: number): Beat[] {
  const bars = new Set(heard.bars)
  return heard.beats.map((beat) => ({ at: ownTime(beat, time), bar: bars.has(beat) })).filter((b) => b.at >= 0 && b.at <= length)
}

/** Where a dragged key comes to: on something near, or on a whole frame. `anchors` in ticks. */
export function snapped(at: number, frame: number, anchors: number[], perPx: number, free: boolean): number {
  if (!free) {
    let best: number | null = null
    for (const a of anchors) if (Math.abs(a - at) <= NEAR_PX * perPx && (best === null || Math.abs(a - at) < Math.abs(best - at))) best = a
    if (best !== null) return Math.round(best)
  }
  return Math.round(at / frame) * frame
}

/** The range of an open lane's curve, with some room. */
export function curveRange(row: LaneRow): [number, number] {
  const values = row.curve?.values ?? [0]
  let low = Math.min(...values)
  let high = Math.max(...values)
  if (high - low < 1e-6) {
    const room = Math.max(Math.abs(high) * 0.1, 0.01)
    low -= room
    high += room
  }
  const room = (high - low) * 0.12
  return [low - room, high + room]
}

/** A lane's value at a time, read from its curve. */
export function curveAt(row: LaneRow, at: number, length: number): number {
  const values = row.curve?.values
  if (!values) return 0
  const x = (Math.min(Math.max(at, 0), length) / Math.max(1, length)) * (values.length - 1)
  const i = Math.min(Math.floor(x), values.length - 2)
  const [a, b] = [values[i] ?? 0, values[i + 1] ?? values[i] ?? 0]
  return a + (b - a) * (x - i)
}

export const heightOf = (row: LaneRow, key: KeyMark, length: number) => (typeof key.value === 'number' ? key.value : curveAt(row, key.at, length))

export type HandleEnd = { key: KeyMark; other: KeyMark; side: 'out' | 'in'; at: number; value: number }

/** Where the ease handles of a key end, in ticks and value; none beside holds, bounces and springs. */
export function handlesOf(row: LaneRow, index: number, length: number): HandleEnd[] {
  const found: HandleEnd[] = []
  const [key, next, before] = [row.keys[index], row.keys[index + 1], row.keys[index - 1]]
  if (!key) return found
  const v = heightOf(row, key, length)
  if (next && !key.hold && !key.follow) found.push({ key, other: next, side: 'out', at: key.at + key.ease_out[0] * (next.at - key.at), value: v + key.ease_out[1] * (heightOf(row, next, length) - v) })
  if (before && !before.hold && !before.follow)
    found.push({ key, other: before, side: 'in', at: key.at - key.ease_in[0] * (key.at - before.at), value: v - key.ease_in[1] * (v - heightOf(row, before, length)) })
  return found
}

/** The handle, as edits take it, that ends at a time and value. */
export function handleTo(row: LaneRow, end: HandleEnd, at: number, value: number, length: number): [number, number] {
  const span = Math.abs(end.other.at - end.key.at) || 1
  const rise = Math.abs(heightOf(row, end.other, length) - heightOf(row, end.key, length))
  const sign = heightOf(row, end.other, length) >= heightOf(row, end.key, length) ? 1 : -1
  const x = Math.min(1, Math.max(0, Math.abs(at - end.key.at) / span))
  const beyond = end.side === 'out' ? at < end.key.at : at > end.key.at
  const y = rise < 1e-9 ? x : Math.min(10, Math.max(-10, ((value - heightOf(row, end.key, length)) * sign) / rise))
  return [beyond ? 0 : x, y]
}

type Range = [number, number]

/** A stretch of the time made longer or shorter about a moment, which stays where it lies; null: all of `length`. All in ticks. */
export function enlarged([from, to]: Range, at: number, longer: boolean, least: number, length: number): Range | null {
  const span = Math.min(length, Math.max(least, (to - from) * (longer ? 1.25 : 0.8)))
  const begins = Math.min(Math.max(0, at - ((at - from) / (to - from)) * span), length - span)
  return span >= length ? null : [begins, begins + span]
}

/** The same stretch later, by a share of itself, within the time. */
export function shifted([from, to]: Range, share: number, length: number): Range {
  const by = Math.min(Math.max(share * (to - from), -from), length - to)
  return [from + by, to + by]
}
