import { type Command, someScene } from '@/project/command'
import { edit } from '@/project/connection'
import { openDialog } from '@/project/dialogs'
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

const FREE: Command = {
  id: 'free-scenes',
  label: 'Free the chosen scenes from their template',
  words: 'treatment detach by hand',
  at: 'desk',
  possible: () => treated().length > 0,
  run: () => void edit({ edit: 'free_scenes', scenes: treated() }),
}

export const templateCommands = (): Command[] => [TREAT_SCENES, FREE]
