import type { Edit, KeyRef } from '@/api/client'
import type { Held } from '@/interaction/drag'
import { chooseKeys, useSession } from '@/project/session'
import { pxAt, ticksAt, type TimeScale } from '@/project/time-scale'
import { keyRef, sameKey } from './actions'
import { curveRange, type HandleEnd, handlesOf, handleTo, heightOf, laneId, NEAR_PX, snapped, type Track } from './model'

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

/** What dragging a keyframe or a handle from one place in the rows to another comes to. `anchors`: moments (ticks) that a keyframe snaps to. */
export function draggedTo(what: Hit, { scale, length, frame, anchors }: Drawn & { frame: number; anchors: number[] }, [x0, y0]: [number, number], [x, y]: [number, number], held: Held): Edit[] {
  if (what.kind === 'handle') {
    const to = handleTo(what.track.row, what.end, ticksAt(scale, x), valueAt(what.track, y), length)
    return [{ edit: 'set_keys', keys: [keyRef(what.track.row, what.end.key.id)], [what.end.side === 'out' ? 'ease_out' : 'ease_in']: to }]
  }
  if (what.kind !== 'key') return []
  const way = ticksAt(scale, x) - ticksAt(scale, x0)
  const upright = held.constrain && Math.abs(y - y0) > Math.abs(x - x0)
  const by = upright ? 0 : snapped(what.at + way, frame, anchors, scale.perPx, held.free) - what.at
  const edits: Edit[] = []
  const keys = useSession.getState().chosenKeys
  const value = what.track.open && what.track.row.kind === 'number' && !(held.constrain && !upright) ? valueAt(what.track, y) - valueAt(what.track, y0) : 0
  const sameLane = keys.filter((k) => k.property === what.ref.property && k.layer === what.ref.layer && k.scene === what.ref.scene)
  if (by) edits.push({ edit: 'shift_keys', keys, by })
  if (value) edits.push({ edit: 'shift_keys', keys: sameLane, value })
  return edits
}

/** A keyframe that is pressed: chosen alone, besides others (`more`), or with all from the one chosen last (`range`). */
export function pressed(what: Extract<Hit, { kind: 'key' }>, range: boolean, more: boolean): void {
  const has = useSession.getState().chosenKeys.some((k) => sameKey(k, what.ref))
  const last = useSession.getState().chosenKeys.at(-1)
  if (range && last && last.property === what.ref.property && last.layer === what.ref.layer && last.scene === what.ref.scene) {
    // From the key chosen last up to this one.
    const order = what.track.row.keys.map((k) => k.id)
    const [a, b] = [order.indexOf(last.key), order.indexOf(what.ref.key)].sort((m, n) => m - n) as [number, number]
    const between = order.slice(a, b + 1).map((id) => keyRef(what.track.row, id))
    const kept = useSession.getState().chosenKeys.filter((k) => !between.some((r) => sameKey(r, k)))
    chooseKeys([...kept, ...between])
  } else if (!has) chooseKeys(more ? [...useSession.getState().chosenKeys, what.ref] : [what.ref])
  else if (more) chooseKeys(useSession.getState().chosenKeys.filter((k) => !sameKey(k, what.ref)))
}
