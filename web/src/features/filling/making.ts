import { client, type Edit, settled } from '@/api/client'
import { sendAll } from '@/features/contact-sheet'
import { edit, openProject } from '@/project/connection'
import { newId } from '@/project/project'
import { say } from '@/ui/notices'
import { filledNow, pictured } from './told'

export type FrameSize = { width: number; height: number }

/** A project of its own for what is filled here; its id. */
export async function begun(frame: FrameSize, edits: Edit[]): Promise<string> {
  const body = { title: 'Untitled film', edits: [{ edit: 'set_frame' as const, ...frame }, ...edits], copy_of: null }
  const { id } = await settled(client.POST('/api/projects', { body }))
  await openProject(id)
  return id
}

/** Puts pictures that no scene shows into the film: the first of all in their order, later ones where there is room. */
export async function placeUnused(): Promise<boolean> {
  const { zones, unused } = await filledNow()
  const places = zones.filter(pictured)
  if (!places.length || !unused.length) return true
  const first = !places.some((z) => z.held)
  const done = await edit(first ? { edit: 'deal_pictures', pictures: unused, id: newId() } : { edit: 'pour_pictures', pictures: unused, id: newId(), partly: true })
  return done
}

/** Takes pictures in, and puts them into the film. What does not go in is said by name. */
export async function addPictures(files: File[]): Promise<void> {
  await sendAll(files)
  try {
    await placeUnused()
  } catch (error) {
    say((error as Error).message, 'fault')
  }
}

/** The film made of templates, one after another, with all pictures that are there. */
export const composed = (keys: string[], pictures: string[], id = newId()): Edit => ({ edit: 'compose_film', keys, id, pictures })
