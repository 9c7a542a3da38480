import { PicturePicker } from '@/features/pictures'
import type { DialogProps } from '@/project/dialogs'
import { edit } from '@/project/connection'
import { newId } from '@/project/project'
import { chooseLayers, reachedPhotos, useSession } from '@/project/session'

export function AddPhotos({ onClose }: DialogProps) {
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? '')
  const add = (ids: string[]) => {
    const photos = ids.map((media) => ({ id: newId(), media }))
    void edit({ edit: 'add_photos', scene, photos }).then((done) => done && chooseLayers(photos.map((p) => ({ scene, layer: p.id }))))
  }
  return (
    <PicturePicker
      many
      title="Add to the scene"
      description="Each becomes a photo in a window of its own, above what is there."
      action={(n) => `Add ${n || ''} to the scene`}
      onPick={add}
      onClose={onClose}
    />
  )
}

export function ReplacePicture({ onClose }: DialogProps) {
  const replace = ([media]: string[]) => media && void edit({ edit: 'replace_pictures', layers: reachedPhotos(), media })
  return <PicturePicker title="Replace the picture" description="Place, mount, move and timing stay." action={() => 'Replace'} onPick={replace} onClose={onClose} />
}
