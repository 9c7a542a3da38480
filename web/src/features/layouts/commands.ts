import { type Command, chosenScene, someScene } from '@/project/command'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { openDialog } from '@/project/dialogs'
import { layersOf } from '@/project/project'
import { now } from '@/project/session'

/** How many photos of a scene a layout places: those in groups stay where they are. */
export const loosePhotos = (scene: string): number => Object.values(layersOf(now().document, scene)).filter((l) => l.kind === 'photo' && !l.parent).length

export const LAY_OUT: Command = {
  id: 'dialog-layout',
  label: 'Lay out the photos…',
  words: 'grid pile table arrange',
  at: 'desk',
  possible: () => loosePhotos(chosenScene()) > 0,
  run: () => openDialog('layout'),
}

export const layoutCommands = (): Command[] => [
  LAY_OUT,
  ...catalogue().layouts.map(
    (l): Command => ({
      id: `layout-${l.id}`,
      label: `Layout: ${l.label}`,
      words: l.help,
      at: 'desk',
      possible: () => someScene() && now().chosenScenes.every((s) => loosePhotos(s) >= l.least && loosePhotos(s) <= l.most),
      run: () => void edit({ edit: 'apply_layout', scenes: now().chosenScenes, layout: { kind: l.id } }),
    }),
  ),
]
