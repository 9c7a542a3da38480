import { edit } from '@/project/connection'
import { newId } from '@/project/project'
import { chooseLayers, useSession } from '@/project/session'

/** Copies of the chosen layers, a little off, chosen instead. */
export async function duplicateLayers(): Promise<void> {
  const copies = useSession.getState().chosenLayers.map((r) => ({ ...r, copy_id: newId() }))
  if (copies.length && (await edit({ edit: 'duplicate_layers', copies }))) chooseLayers(copies.map((c) => ({ scene: c.scene, layer: c.copy_id })))
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
