import { chosenScene } from '@/project/command'
import { edit } from '@/project/connection'
import { newId } from '@/project/project'
import { beginWriting } from './writing'

export { beginWriting }

/** Puts a text onto the scene and begins to write it; `x`, `y`: fractions of the frame from its middle. */
export async function addText(text?: string, x = 0, y = 0): Promise<void> {
  const [scene, id] = [chosenScene(), newId()]
  if (!scene) return
  if (await edit({ edit: 'add_text', scene, id, x, y, ...(text && { text }) })) beginWriting({ scene, layer: id }, !text)
}
