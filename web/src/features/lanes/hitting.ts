import type { KeyRef } from '@/api/client'
import { pxAt, type TimeScale } from '@/project/time-scale'
import { keyRef } from './actions'
import { curveRange, type HandleEnd, handlesOf, heightOf, laneId, NEAR_PX, type Track } from './model'

export type LaneTrack = Extract<Track, { kind: 'lane' }>
/** What lies under the pointer. */
export type Hit = { kind: 'key'; track: LaneTrack; ref: KeyRef; at: number; value: number } | { kind: 'handle'; track: LaneTrack; end: HandleEnd } | { kind: 'box' }

/** How the rows are drawn: `length` of the scene in ticks of its own time; `chosen` keyframes by `keyOf`. */
export type Drawn = { tracks: Track[]; scale: TimeScale; length: number; chosen: Set<string> }

/** A keyframe's name among all that are drawn. */
export const keyOf = (row: { container: string; layer: string | null; property: string }, id: string) => `${laneId(row)}/${id}`

/** Where a value of an open lane lies, in pixels of the rows. */
export function yOf(track: LaneTrack, value: number): number {
  const [low, high] = curveRange(track.row)
  return track.top + track.height - 8 - ((value - low) / (high - low)) * (track.height - 16)
}
/** The value at a height: the inverse. */
export function valueAt(track: LaneTrack, y: number): number {
  const [low, high] = curveRange(track.row)
  return low + ((track.top + track.height - 8 - y) / (track.height - 16)) * (high - low)
}

/** The keyframe or handle nearest to a place in the rows, or none. */
export function hit({ tracks, scale, length, chosen }: Drawn, [x, y]: [number, number]): Hit {
  const track = tracks.find((t) => y >= t.top && y < t.top + t.height)
  if (track?.kind !== 'lane') return { kind: 'box' }
  let best: Hit = { kind: 'box' }
  let nearest = NEAR_PX + 1
  track.row.keys.forEach((key, index) => {
    const value = heightOf(track.row, key, length)
    const ky = track.open ? yOf(track, value) : track.top + track.height / 2
    const far = Math.hypot(pxAt(scale, key.at) - x, track.open ? ky - y : (ky - y) * 0.5)
    if (far < nearest) {
      nearest = far
      best = { kind: 'key', track, ref: keyRef(track.row, key.id), at: key.at, value }
    }
    if (track.open && chosen.has(keyOf(track.row, key.id)))
      for (const end of handlesOf(track.row, index, length)) {
        const away = Math.hypot(pxAt(scale, end.at) - x, yOf(track, end.value) - y)
        if (away < Math.min(nearest, NEAR_PX)) {
          nearest = away
          best = { kind: 'handle', track, end }
        }
      }
  })
  return best
}

/** Keyframes inside a box, given by two of its corners. */
export function boxed({ tracks, scale, length }: Drawn, [x0, y0]: [number, number], [x1, y1]: [number, number]): KeyRef[] {
  const inside = (x: number, y: number) => x >= Math.min(x0, x1) && x <= Math.max(x0, x1) && y >= Math.min(y0, y1) && y <= Math.max(y0, y1)
  return tracks.flatMap((t) =>
    t.kind === 'lane' ? t.row.keys.filter((k) => inside(pxAt(scale, k.at), t.open ? yOf(t, heightOf(t.row, k, length)) : t.top + t.height / 2)).map((k) => keyRef(t.row, k.id)) : [],
  )
}
