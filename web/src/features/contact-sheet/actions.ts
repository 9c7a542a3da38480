import { sendPicture } from '@/api/client'
import { showScenes } from '@/playback/screen'
import { edit } from '@/project/connection'
import { newId, useProject } from '@/project/project'
import { say } from '@/ui/notices'

/** A scene for each picture, chosen then; what was done, in words. */
export async function putIntoFilm(pictures: string[]): Promise<string | null> {
  const scenes = pictures.map((media) => ({ id: newId(), media }))
  if (!scenes.length || !(await edit({ edit: 'add_scenes', scenes }))) return null
  // The first of them is the one that is seen.
  showScenes(scenes.map((s) => s.id).reverse())
  return `${scenes.length} scene${scenes.length === 1 ? '' : 's'} added to the film.`
}

/** Pictures into what the film's template leaves empty, and then into scenes more of it; what was done, in words. */
export async function pour(pictures: string[]): Promise<string | null> {
  const done = await edit({ edit: 'pour_pictures', pictures, id: newId() })
  return done ? `${pictures.length} picture${pictures.length === 1 ? '' : 's'} in the template.` : null
}

/** One scene of all the pictures, chosen then; what was done, in words. */
export async function putTogether(pictures: string[]): Promise<string | null> {
  const id = newId()
  const photos = pictures.map((media) => ({ layer: newId(), media }))
  if (!(await edit({ edit: 'add_composition', id, photos, layout: { kind: 'grid' } }))) return null
  showScenes([id])
  return `One scene of ${photos.length} photos added. Lay it out on the desk.`
}

/** Pictures go, and (if some are in the film) the scenes that show them. */
export async function removePictures(ids: string[], used: boolean): Promise<boolean> {
  const done = await edit({ edit: 'remove_pictures', ids, with_scenes: used })
  if (done) say(`${ids.length} picture${ids.length === 1 ? '' : 's'} removed${used ? ', with the scenes that showed them' : ''}. Undo brings them back.`)
  return done
}

/** Another file for a picture; all else is kept. */
export async function replaceFile(id: string, file: File): Promise<void> {
  try {
    const record = await sendPicture(useProject.getState().id, file, () => undefined, new AbortController().signal)
    if (await edit({ edit: 'replace_file', id, picture: { ...record, id } })) say('The picture has its new file. Everything else is kept.')
  } catch (error) {
    say((error as Error).message, 'fault')
  }
}
