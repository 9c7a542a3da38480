import type { Edit, KeyRef, LaneRef, EditOf } from '@/api/client'
import { seek, useGeometry } from '@/playback/screen'
import type { KeyMark, LaneRow } from '@/playback/socket'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { layersOf } from '@/project/project'
import { chooseKeys, now, reachedLayers } from '@/project/session'
import { filmTime } from '@/project/scene-time'
import { say } from '@/ui/notices'

const rows = (): LaneRow[] => useGeometry.getState().geometry.lanes?.rows ?? []

/** A lane, as edits name it. */
export const laneRef = (row: { container: string; layer: string | null; property: string }): LaneRef => ({
  scene: row.container,
  layer: row.layer,
  property: row.property,
  on: now().chosenScenes.at(-1),
})

export const keyRef = (row: LaneRow, key: string): KeyRef => ({ ...laneRef(row), key })

export const sameKey = (a: KeyRef, b: KeyRef) => a.key === b.key && a.property === b.property && a.layer === b.layer && a.scene === b.scene

/** The chosen keys with their rows; those that are gone are left out. */
export function chosenMarks(): { row: LaneRow; key: KeyMark }[] {
  return now().chosenKeys.flatMap((ref) => {
    const row = rows().find((r) => r.container === ref.scene && r.layer === ref.layer && r.property === ref.property)
    const key = row?.keys.find((k) => k.id === ref.key)
    return row && key ? [{ row, key }] : []
  })
}

export const chooseAllKeys = (): void => chooseKeys(rows().flatMap((row) => row.keys.map((key) => keyRef(row, key.id))))

export async function deleteKeys(): Promise<void> {
  const keys = now().chosenKeys
  if (keys.length && (await edit({ edit: 'remove_keys', keys }))) chooseKeys([])
}

export const easeKeys = (ease: string): Promise<boolean> => {
  const spec = catalogue().eases.find((e) => e.id === ease)
  return spec
    ? edit({ edit: 'ease_keys', keys: now().chosenKeys, leave: spec.leave, arrive: spec.arrive, hold: spec.hold, follow: (spec.follow ?? null) as EditOf<'ease_keys'>['follow'] })
    : Promise.resolve(false)
}

type Copied = { property: string; after: number; key: Record<string, unknown> }
let copied: Copied[] = []
export const hasCopied = () => copied.length > 0
/** What was copied is forgotten: something else was, since. */
export const forgetCopied = () => {
  copied = []
}

export function copyKeys(): void {
  const marks = chosenMarks()
  if (!marks.length) return
  const first = Math.min(...marks.map((m) => m.key.at))
  const { document } = now()
  copied = marks.flatMap(({ row, key }) => {
    const owner = row.layer === null ? document.scenes?.[row.container] : layersOf(document, row.container)[row.layer]
    const lane = (row.property === 'view' ? (owner as { view?: unknown } | undefined)?.view : owner?.animation?.[row.property]) as { keys: Record<string, Record<string, unknown>> } | undefined
    const record = lane?.keys[key.id]
    return record ? [{ property: row.property, after: key.at - first, key: record }] : []
  })
  say(`${copied.length} keyframe${copied.length === 1 ? '' : 's'} copied: paste them at the playhead, onto other layers or scenes, too.`)
}

/** Puts the copied keys at the playhead: onto the chosen lane if exactly one is, else onto the chosen layers (or where they came from). */
export async function pasteKeys(): Promise<void> {
  if (!copied.length) return
  const lanes = selectedLanes()
  const on = now().chosenScenes.at(-1)
  const single = lanes.length === 1 && new Set(copied.map((c) => c.property)).size === 1 ? lanes[0] : undefined
  const ofScene = copied.every((c) => /^(camera|light|backdrop)\./.test(c.property))
  const to = single
    ? [single]
    : ofScene
      ? now().chosenScenes.map((scene) => ({ scene, layer: null, property: '', on: scene }))
      : reachedLayers().map((l) => ({ ...l, property: '', on: now().chosenScenes.length > 1 ? l.scene : on }))
  await edit({ edit: 'paste_keys', keys: copied, to, at: Math.round(now().playhead) })
}

/** The lanes that have chosen keys. */
export function selectedLanes(): LaneRef[] {
  const found = new Map<string, LaneRef>()
  for (const { row } of chosenMarks()) found.set(`${row.container}/${row.layer}/${row.property}`, laneRef(row))
  return [...found.values()]
}

/** A key at the playhead on each chosen lane; without any, on the place of the chosen layers. */
export async function setKeysHere(): Promise<void> {
  const chosen = selectedLanes()
  const lanes = chosen.length ? chosen : reachedLayers().map((l) => ({ ...l, property: 'placement.path', on: now().chosenScenes.at(-1) }))
  if (lanes.length) await edit({ edit: 'add_keys', lanes, at: Math.round(now().playhead) } as Edit)
}

/** The playhead to the next key of the scene's lanes (of the chosen layer, if one is). */
export function stepToKey(way: 1 | -1): void {
  const { chosenLayers, playhead } = now()
  const here = rows().filter((r) => !chosenLayers.length || chosenLayers.some((c) => c.scene === r.container && c.layer === r.layer))
  const times = [...new Set(here.flatMap((r) => r.keys.map((k) => filmTime(k.at))))].sort((a, b) => a - b)
  const half = now().timeline.frame_ticks / 2
  const next = way > 0 ? times.find((t) => t > playhead + half) : times.findLast((t) => t < playhead - half)
  if (next !== undefined) seek(next)
}
