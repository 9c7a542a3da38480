import type { LayerRef } from '@/api/client'
import { type Command, chosenScene, control } from '@/project/command'
import { edit } from '@/project/connection'
import { inOrder } from '@/project/ordering'
import { layersOf, newId } from '@/project/project'
import { chooseLayers, now, useSession } from '@/project/session'
import { say } from '@/ui/notices'

/** Copies of the chosen layers, a little off, chosen instead. */
export async function duplicateLayers(): Promise<void> {
  const copies = useSession.getState().chosenLayers.map((r) => ({ ...r, copy_id: newId() }))
  if (copies.length && (await edit({ edit: 'duplicate_layers', copies }))) chooseLayers(copies.map((c) => ({ scene: c.scene, layer: c.copy_id })))
}

let copied: LayerRef[] = []
export const hasLayersCopied = () => copied.length > 0
export const forgetLayersCopied = () => {
  copied = []
}

/** The chosen layers are there to be pasted, into other scenes, too. */
export function copyLayers(): void {
  copied = now().chosenLayers
  if (copied.length) say(`${copied.length} layer${copied.length === 1 ? '' : 's'} copied: paste ${copied.length === 1 ? 'it' : 'them'} into any scene.`)
}

/** Puts the copied layers above all others of the chosen scene, at the same place; in their own, a little off. */
export async function pasteLayers(): Promise<void> {
  const to = chosenScene()
  const there = copied.filter((r) => layersOf(now().document, r.scene)[r.layer])
  if (!there.length || !to) {
    say('Copy layers first: choose them and press Ctrl C.')
    return
  }
  const copies = there.map((r) => ({ ...r, to, copy_id: newId() }))
  if (await edit({ edit: 'duplicate_layers', copies })) chooseLayers(copies.map((c) => ({ scene: to, layer: c.copy_id })))
}

export async function removeLayers(): Promise<void> {
  const { chosenLayers } = useSession.getState()
  if (chosenLayers.length && (await edit({ edit: 'remove_layers', layers: chosenLayers }))) chooseLayers([])
}

/** The chosen layers as one group, which is chosen then. */
export async function groupLayers(): Promise<void> {
  const { chosenLayers } = useSession.getState()
  const [first] = chosenLayers
  if (!first) return
  const id = newId()
  if (await edit({ edit: 'group_layers', layers: chosenLayers, id })) chooseLayers([{ scene: first.scene, layer: id }])
}

/** The chosen layers moved by some thousandths of the frame. */
export function nudgeLayers(x: number, y: number): void {
  const { chosenLayers, chosenScenes, playhead } = useSession.getState()
  if (chosenLayers.length) void edit({ edit: 'nudge_layers', layers: chosenLayers, by: [x, y], on: chosenScenes.at(-1) ?? null, at: Math.round(playhead) })
}

/** The chosen layers above (1) or below (-1) the next one beside them. */
export function shiftLayers(way: 1 | -1): void {
  const { chosenLayers, document } = now()
  const [first] = chosenLayers
  if (!first) return
  const layers = layersOf(document, first.scene)
  const moving = chosenLayers.filter((r) => r.scene === first.scene)
  const parent = layers[first.layer]?.parent ?? null
  const level = inOrder(layers).filter(([, l]) => (l.parent ?? null) === parent)
  const isMoving = (id: string) => moving.some((r) => r.layer === id)
  const rest = level.filter(([id]) => !isMoving(id)).map(([id]) => id)
  const ends = level.map(([id]) => id).filter(isMoving)
  const end = level.findIndex(([id]) => id === (way > 0 ? ends.at(-1) : ends[0]))
  const place = level.slice(0, end).filter(([id]) => !isMoving(id)).length + way
  if (place >= 0 && place <= rest.length) void edit({ edit: 'move_layers', layers: moving, below: rest[place] ?? null, parent })
}

export const GROUP: Command = {
  id: 'group',
  label: 'Group the chosen layers',
  short: 'Group',
  keys: 'Ctrl G',
  place: 'desk',
  match: control('g'),
  possible: () => now().chosenLayers.length > 0,
  run: () => void groupLayers(),
}
