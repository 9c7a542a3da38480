import type { Lanes } from '@/playback/socket'
import type { SceneTime } from '@/project/scene-time'
import { chooseKeys, useSession } from '@/project/session'
import { pxAt } from '@/project/time-scale'
import { frameText } from '@/project/times'
import { keyRef, sameKey } from './actions'
import { type Drawn, keyOf, yOf } from './hitting'
import { keyframeKeys } from './keyboard'
import { heightOf, LABELS } from './model'

const MOST_BUTTONS = 240
const ANCHORED = { start: 'from the start', end: 'from the end', fraction: 'share of the time' }

/** Keyframes as buttons over the drawing, for the keyboard and for readers; of very many only those that are chosen. */
export function KeyButtons({ drawn, lanes, frame, time }: { drawn: Drawn; lanes: Lanes; frame: number; time: SceneTime }) {
  const { tracks, scale, chosen } = drawn
  const chosenKeys = useSession((s) => s.chosenKeys)
  const count = lanes.rows.reduce((n, r) => n + r.keys.length, 0)
  const listed = lanes.rows.flatMap((row) => row.keys.filter((k) => count <= MOST_BUTTONS || chosen.has(keyOf(row, k.id))).map((key) => ({ row, key })))
  const focusable = chosenKeys.at(-1) ? chosenKeys.at(-1) : listed[0] && keyRef(listed[0].row, listed[0].key.id)
  return tracks.map((track) =>
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
                onKeyDown={keyframeKeys(lanes, frame, time, track.row, key.id)}
                className="pointer-events-none absolute size-3.5 -translate-x-1/2 -translate-y-1/2 rounded-full"
                style={{ left: x, top: y }}
              />
            )
          }),
  )
}
