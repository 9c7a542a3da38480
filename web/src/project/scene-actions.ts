import { inOrder } from './ordering'
import { edit } from './connection'
import { newId, useProject } from './project'
import { chooseScenes, useSession } from './session'

/** Copies of the chosen scenes after them, chosen instead. */
export async function duplicateScenes(): Promise<void> {
  const { chosenScenes } = useSession.getState()
  const { document } = useProject.getState()
  const copies = inOrder(document.scenes)
    .filter(([k]) => chosenScenes.includes(k))
    .map(([id]) => ({ id, copy_id: newId() }))
  if (copies.length && (await edit({ edit: 'duplicate_scenes', copies }))) chooseScenes(copies.map((c) => c.copy_id))
}

/** The chosen scenes go; the next one is chosen. */
export async function removeScenes(): Promise<void> {
  const { chosenScenes } = useSession.getState()
  const { document } = useProject.getState()
  if (!chosenScenes.length) return
  const order = inOrder(document.scenes).map(([k]) => k)
  const after = order.slice(Math.max(...chosenScenes.map((c) => order.indexOf(c))) + 1)[0] ?? order.filter((k) => !chosenScenes.includes(k)).at(-1)
  if (await edit({ edit: 'remove_scenes', ids: chosenScenes })) chooseScenes(after ? [after] : [])
}

/** The chosen scenes one place earlier (-1) or later (1). */
export function shiftScenes(way: 1 | -1): void {
  const { chosenScenes } = useSession.getState()
  const order = inOrder(useProject.getState().document.scenes).map(([k]) => k)
  const rest = order.filter((k) => !chosenScenes.includes(k))
  const first = order.findIndex((k) => chosenScenes.includes(k))
  const place = order.slice(0, first).filter((k) => rest.includes(k)).length + way
  if (chosenScenes.length && place >= 0 && place <= rest.length) void edit({ edit: 'move_scenes', ids: chosenScenes, before: rest[place] ?? null })
}
