import { type Command, someScene } from '@/project/command'
import { edit } from '@/project/connection'
import { openDialog } from '@/project/dialogs'
import { newId } from '@/project/project'
import { now } from '@/project/session'
import { inFilmOrder, useTreating } from './treating'

const treated = () => now().chosenScenes.filter((id) => now().document.scenes?.[id]?.template)

export const TREAT_SCENES: Command = {
  id: 'treat-scenes',
  label: 'Treat the chosen scenes with a template…',
  short: 'Treat with…',
  words: 'template treatment library put on',
  at: 'desk',
  possible: someScene,
  run: () => {
    useTreating.setState({ scenes: inFilmOrder(now().chosenScenes), pictures: [] })
    openDialog('library')
  },
}

/** The library for pictures, which get scenes of their own. */
export function treatPictures(pictures: string[]): void {
  useTreating.setState({ scenes: [], pictures })
  openDialog('library')
}

/** Scenes become a template that is made here. */
export const makeTemplate = (scenes: string[], name: string, kind: 'treatment' | 'film' = 'treatment') => edit({ edit: 'make_template', id: newId(), name: name.slice(0, 100), scenes, kind })

export const MAKE: Command = {
  id: 'make-template',
  label: 'Make a template of the chosen scenes',
  words: 'drop zones dials package reuse',
  at: 'desk',
  possible: someScene,
  run: () => {
    const scenes = inFilmOrder(now().chosenScenes)
    void makeTemplate(scenes, now().document.scenes?.[scenes[0] ?? '']?.name || 'Template')
  },
}

/** The template that the scene which is seen belongs to, if it is made here. */
const making = () => {
  const { document, chosenScenes } = now()
  const template = document.scenes?.[chosenScenes.at(-1) ?? '']?.template?.template
  return template !== undefined && document.templates?.[template]?.origin == null
}

export const TRY: Command = {
  id: 'try-template',
  label: 'Try the template on awkward pictures…',
  words: 'test trials wide tall tiny long texts report',
  at: 'desk',
  possible: making,
  run: () => openDialog('trying'),
}

const FREE: Command = {
  id: 'free-scenes',
  label: 'Free the chosen scenes from their template',
  words: 'treatment detach by hand',
  at: 'desk',
  possible: () => treated().length > 0,
  run: () => void edit({ edit: 'free_scenes', scenes: treated() }),
}

export const templateCommands = (): Command[] => [TREAT_SCENES, TRY, FREE]
