import { type ReactNode, useMemo } from 'react'
import { useShallow } from 'zustand/react/shallow'
import type { Doc, Edit, KeyRef, LaneRef } from '@/api/client'
import { useGeometry } from '@/playback/screen'
import type { Geometry } from '@/playback/socket'
import { filmTime, sceneTime } from '@/project/scene-time'
import { edit } from '@/project/connection'
import { layersOf, useProject } from '@/project/project'
import { useSession } from '@/project/session'

export type Owner = { scene: string; layer: string | null }
type State = 'none' | 'animated' | 'here'

const PATHED: Record<string, string> = {
  'placement.x': 'placement.path',
  'placement.y': 'placement.path',
  'placement.z': 'placement.path',
  'camera.x': 'camera.path',
  'camera.y': 'camera.path',
  'camera.dolly': 'camera.path',
}

const WORDS: Record<State, string> = {
  none: 'Set a keyframe here: it begins to move',
  animated: 'Keyframed. Set a keyframe here',
  here: 'A keyframe stands here. Take it away',
}

export type Numbers = {
  /** A number as it is at the playhead, if it moves. */
  now: (name: string, base: number | null) => number | null
  /** The mark that says whether a number is keyframed, and sets or takes a keyframe. */
  mark: (name: string, label: string) => ReactNode
  /** How a number that moves is changed: it is shifted as a whole, or recorded. One that does not is set: null. */
  moved: (name: string, value: number) => Edit | null
  /** The same three of a colour: it moves by its channels. */
  colour: {
    now: (name: string, base: string | null) => string | null
    mark: (name: string, label: string) => ReactNode
    moved: (name: string, value: string) => Edit[] | null
  }
}

const CHANNELS = ['red', 'green', 'blue'] as const
const levels = (colour: string) => [1, 3, 5].map((i) => Number.parseInt(colour.slice(i, i + 2), 16))
const channels = (name: string) => CHANNELS.map((c) => `${name}_${c}`)

type Told = { values: Record<string, Record<string, number>>; rows: NonNullable<Geometry['lanes']>['rows'] }

const keyOf = (o: Owner) => `${o.scene}/${o.layer ?? ''}`

/** What a picture's geometry says of one part of some owners: numbers that move, and their keys. */
function toldOf(geometry: Geometry, owners: Owner[], part: string): Told {
  const keys = new Set(owners.map(keyOf))
  const mine = (property: string) => property.startsWith(`${part}.`)
  const values = Object.fromEntries([...keys].map((key) => [key, Object.fromEntries(Object.entries(geometry.values[key] ?? {}).filter(([name]) => mine(name)))]))
  return { values, rows: (geometry.lanes?.rows ?? []).filter((r) => mine(r.property) && keys.has(keyOf({ scene: r.container, layer: r.layer }))) }
}

const NONE: Record<string, unknown> = {}

const animationOf = (document: Doc, o: Owner) => (o.layer === null ? document.scenes?.[o.scene]?.animation : layersOf(document, o.scene)[o.layer]?.animation)

/** Numbers of one part (`placement`, `mount`, `camera`…) of layers or scenes at the playhead. */
export function useNumbers(owners: Owner[], part: string): Numbers {
  const animations = useProject(useShallow((s) => owners.map((o) => animationOf(s.document, o))))
  const frame = useProject((s) => s.timeline.frame_ticks)
  const on = useSession((s) => s.chosenScenes.at(-1))
  useProject((s) => s.timeline)
  const time = sceneTime()
  // What the last picture says of this part alone: it is not drawn anew for what else moves.
  const told = useGeometry((s) => JSON.stringify(toldOf(s.geometry, owners, part)))
  const { values, rows } = useMemo(() => JSON.parse(told) as Told, [told])
  const playing = useSession((s) => s.playing)
  const hereOf = (at: number) =>
    owners.map((o) => rows.filter((r) => r.container === o.scene && r.layer === o.layer && r.keys.some((k) => Math.abs(filmTime(k.at, time) - at) <= frame / 2)).map((r) => r.property)).join()
  // Only what stands at the playhead matters, not the playhead itself: else all would be drawn anew at every frame.
  useSession((s) => (s.playing ? '' : hereOf(s.playhead)))

  const animation = (o: Owner) => animations[owners.indexOf(o)] ?? NONE
  /** The lane that moves a number: its own, or the path it is a part of. */
  const laneOf = (o: Owner, full: string): string => {
    const path = PATHED[full]
    return path && !(full in animation(o)) ? path : full
  }
  const refs = (full: string): LaneRef[] => owners.map((o) => ({ scene: o.scene, layer: o.layer, property: laneOf(o, full), on }))
  const keysHere = (full: string): KeyRef[] =>
    owners.flatMap((o) => {
      const property = laneOf(o, full)
      const row = rows.find((r) => r.container === o.scene && r.layer === o.layer && r.property === property)
      const key = row?.keys.find((k) => !playing && Math.abs(filmTime(k.at, time) - useSession.getState().playhead) <= frame / 2)
      return key ? [{ scene: o.scene, layer: o.layer, property, key: key.id, on }] : []
    })
  const state = (names: string[]): State => {
    if (!names.some((full) => owners.some((o) => laneOf(o, full) in animation(o)))) return 'none'
    return names.every((full) => keysHere(full).length === owners.length) ? 'here' : 'animated'
  }
  // What the last picture says of it may be older than what has just been done: a number that has a lane moves, and what is recorded is the
  // number as it is shown, whatever the picture says.
  const moving = (full: string) => owners.some((o) => values[keyOf(o)]?.[full] !== undefined || laneOf(o, full) in animation(o)) || useSession.getState().recording
  const now: Numbers['now'] = (name, base) => {
    const found = owners.map((o) => values[keyOf(o)]?.[`${part}.${name}`])
    if (found.every((v) => v === undefined)) return base
    return found.every((v) => v !== undefined && Math.abs(v - (found[0] ?? 0)) < 1e-9) ? (found[0] ?? base) : null
  }
  const shifted = (name: string, value: number): Edit => ({
    edit: 'set_values',
    lanes: owners.map((o) => ({ scene: o.scene, layer: o.layer, property: `${part}.${name}`, on })),
    value,
    at: Math.round(useSession.getState().playhead),
  })
  /** The mark of one number, or of several that are keyframed together. */
  const markOf = (names: string[], label: string) => {
    const fulls = names.map((name) => `${part}.${name}`)
    const is = state(fulls)
    const press = () => {
      if (is === 'here') void edit({ edit: 'remove_keys', keys: fulls.flatMap(keysHere) })
      else void edit({ edit: 'add_keys', lanes: fulls.flatMap(refs), at: Math.round(useSession.getState().playhead) })
    }
    return (
      <button
        type="button"
        aria-label={`${label}: ${is === 'here' ? 'keyframe here' : is === 'animated' ? 'keyframed' : 'not keyframed'}`}
        aria-pressed={is === 'here'}
        title={WORDS[is]}
        onClick={press}
        className="-mx-1.5 grid size-5 shrink-0 place-items-center"
      >
        <span className={`size-[9px] rounded-full border-[1.5px] ${is === 'here' ? 'border-brass bg-brass' : is === 'animated' ? 'border-brass' : 'border-rule'}`} />
      </button>
    )
  }
  return {
    now,
    mark: (name, label) => markOf([name], label),
    moved: (name, value) => (moving(`${part}.${name}`) ? shifted(name, value) : null),
    colour: {
      now: (name, base) => {
        if (base === null) return null
        const found = channels(name).map((channel, i) => now(channel, levels(base)[i] ?? 0))
        return found.some((v) => v === null)
          ? null
          : `#${found
              .map((v) =>
                Math.round(Math.min(Math.max(v ?? 0, 0), 255))
                  .toString(16)
                  .padStart(2, '0'),
              )
              .join('')}`
      },
      mark: (name, label) => markOf(channels(name), label),
      moved: (name, value) => (channels(name).some((c) => moving(`${part}.${c}`)) ? channels(name).map((c, i) => shifted(c, levels(value)[i] ?? 0)) : null),
    },
  }
}
