import { type Edit, type LayerRef, type PictureRecord, sendPicture } from '@/api/client'
import { edit } from '@/project/connection'
import { newId, useProject } from '@/project/project'
import { say } from '@/ui/notices'

/** Files dropped on the easel: one on a photo takes its picture's place, others become photos of the scene. */
export async function receive(files: File[], scene: string, onto: LayerRef | null): Promise<void> {
  const project = useProject.getState().id
  const arrived: { id: string; record: PictureRecord }[] = []
  say(`Taking in ${files.length} file${files.length === 1 ? '' : 's'}…`)
  for (const file of files) {
    try {
      arrived.push({ id: newId(), record: await sendPicture(project, file, () => undefined, new AbortController().signal) })
    } catch (error) {
      say(`${file.name}: ${(error as Error).message}`, 'fault')
    }
  }
  if (!arrived.length) return
  const pictures: Edit = { edit: 'add_pictures', pictures: arrived.map(({ id, record }) => ({ ...record, id })) }
  const first = arrived[0]
  if (onto && first) await edit(pictures, { edit: 'replace_pictures', layers: [onto], media: first.id })
  else await edit(pictures, { edit: 'add_photos', scene, photos: arrived.map(({ id }) => ({ id: newId(), media: id })) })
}
