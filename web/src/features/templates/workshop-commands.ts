import { MAKE, makeTemplate } from './commands'
import type { Command } from '@/project/command'
import { goTo } from '@/project/places'
import { inOrder } from '@/project/ordering'
import { now } from '@/project/session'

const someFilm = () => Object.keys(now().document.scenes ?? {}).length > 0

/** The whole film becomes a template: its pictures, words and songs are drop zones. */
export const MAKE_FILM: Command = {
  id: 'make-film-template',
  label: 'Make a template of the whole film',
  words: 'drop zones dials package reuse all scenes',
  possible: someFilm,
  run: () => {
    const scenes = inOrder(now().document.scenes).map(([id]) => id)
    void makeTemplate(scenes, now().document.title || 'Film', 'film').then((done) => done && goTo('workshop'))
  },
}

export const workshopCommands = (): Command[] => [MAKE, MAKE_FILM]
