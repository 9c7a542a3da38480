import { catalogue } from '@/project/catalogue'
import { type Command, chosenScene, someScene } from '@/project/command'
import { edit } from '@/project/connection'
import { now } from '@/project/session'
import { chooseJoin } from './join-line'

/** Joins by their names. */
export const joinCommands = (): Command[] => [
  { id: 'join', label: 'Choose the join into the scene…', words: 'transition', at: 'desk', possible: someScene, run: () => chooseJoin({ at: 'scene', scene: chosenScene() }) },
  { id: 'beginning', label: 'Choose how the film begins…', words: 'transition fade', at: 'desk', possible: someScene, run: () => chooseJoin({ at: 'beginning' }) },
  { id: 'ending', label: 'Choose how the film ends…', words: 'transition fade', at: 'desk', possible: someScene, run: () => chooseJoin({ at: 'ending' }) },
  ...catalogue().joins.map(
    (j): Command => ({
      id: `join-${j.id}`,
      label: `Join: ${j.label}`,
      words: `transition ${j.help}`,
      at: 'desk',
      possible: someScene,
      run: () => void edit({ edit: 'set_scenes', ids: now().chosenScenes, join: { kind: j.id, ...j.preset } }),
    }),
  ),
]
