import { edit, newId, useProject } from '@/project/store'

/** Copies of the chosen layers, a little off, chosen instead. */
export async function duplicateLayers(): Promise<void> {
  const copies = useProject.getState().chosenLayers.map((r) => ({ ...r, copy_id: newId() }))
  if (copies.length && (await edit({ edit: 'duplicate_layers', copies }))) useProject.setState({ chosenLayers: copies.map((c) => ({ scene: c.scene, layer: c.copy_id })) })
}

export async function removeLayers(): Promise<void> {
  const { chosenLayers } = useProject.getState()
  if (chosenLayers.length && (await edit({ edit: 'remove_layers', layers: chosenLayers }))) useProject.setState({ chosenLayers: [] })
}

/** The chosen layers as one group, which is chosen then. */
export async function groupLayers(): Promise<void> {
  const { chosenLayers } = useProject.getState()
  const [first] = chosenLayers
  if (!first) return
  const id = newId()
  if (await edit({ edit: 'group_layers', layers: chosenLayers, id })) useProject.setState({ chosenLayers: [{ scene: first.scene, layer: id }] })
}

/** The chosen layers moved by some thousandths of the frame. */
export function nudgeLayers(x: number, y: number): void {
  const { chosenLayers, chosenScenes, playhead } = useProject.getState()
  if (chosenLayers.length) void edit({ edit: 'nudge_layers', layers: chosenLayers, by: [x, y], on: chosenScenes.at(-1) ?? null, at: Math.round(playhead) })
}
