import { catalogue } from '@/project/catalogue'
import { type Command, somePhoto, someScene } from '@/project/command'
import { edit } from '@/project/connection'
import { openDialog } from '@/project/dialogs'
import { layersOf } from '@/project/project'
import { now, reachedPhotos } from '@/project/session'

/** The look that all reached photos follow of their own, if it is one. */
function followed(): string | null {
  const looks = reachedPhotos().map((r) => (layersOf(now().document, r.scene)[r.layer] as { look?: string | null }).look ?? null)
  return looks.every((l) => l === looks[0]) ? (looks[0] ?? null) : null
}

/** Looks by their names, the project's own first. */
export function lookCommands(): Command[] {
  const own = Object.entries(now().document.looks ?? {}).filter(([id]) => !catalogue().looks.some((l) => l.id === id))
  const looks = [...own.map(([id, look]) => [id, look.name] as const), ...catalogue().looks.map((l) => [l.id, l.label] as const)]
  return [
    { id: 'dialog-looks', label: 'Looks…', words: 'style mount shadow', at: 'desk', possible: somePhoto, run: () => openDialog('looks') },
    ...looks.map(
      ([id, label]): Command => ({
        id: `look-${id}`,
        label: `Look: ${label}`,
        at: 'desk',
        possible: somePhoto,
        run: () => void edit({ edit: 'use_look', look: id, photos: reachedPhotos(), linked: true }),
      }),
    ),
    {
      id: 'put-into-look',
      label: 'Put what the photo has of its own into its look',
      words: 'update style',
      at: 'desk',
      possible: () => followed() !== null,
      run: () => {
        const [id, photos] = [followed(), reachedPhotos()]
        if (id && photos[0]) void edit({ edit: 'put_into_look', id, photo: photos[0], photos })
      },
    },
    {
      id: 'unlink-look',
      label: 'Unlink from the look: keep it, follow it no more',
      at: 'desk',
      possible: () => followed() !== null,
      run: () => void edit({ edit: 'set_layers', layers: reachedPhotos(), look: null }),
    },
    {
      id: 'backdrop-default',
      label: 'Backdrop back to the look or default',
      at: 'desk',
      possible: someScene,
      run: () => void edit({ edit: 'set_scenes', ids: now().chosenScenes, backdrop: null }),
    },
  ]
}
