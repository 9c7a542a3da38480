import { endSession } from '@/api/client'
import { pictureCommands } from '@/features/contact-sheet'
import { easelCommands } from '@/features/easel'
import { fillingCommands } from '@/features/filling'
import { joinCommands } from '@/features/joins'
import { keyCommands } from '@/features/lanes'
import { layerCommands } from '@/features/layers'
import { letterCommands } from '@/features/letters'
import { layoutCommands } from '@/features/layouts'
import { lookCommands } from '@/features/looks'
import { motionCommands } from '@/features/motion'
import { sceneCommands } from '@/features/run-sheet'
import { soundCommands } from '@/features/sound'
import { tableCommands } from '@/features/tables'
import { templateCommands, workshopCommands } from '@/features/templates'
import { type Command, firstChosen, possibleOf, somePhoto, someScene } from '@/project/command'
import { type DialogName, openDialog } from '@/project/dialogs'
import { goTo, goToProjects, type Place } from '@/project/places'
import { say } from '@/ui/notices'
import { setTheme, useTheme } from '@/ui/theme'
import { KEYED } from './keyed'

const dialog = (id: DialogName, label: string, words: string, more: Partial<Command> = {}): Command => ({ id: `dialog-${id}`, label, words, run: () => openDialog(id), ...more })

const way = (place: Place, label: string, words: string): Command => ({ id: `place-${place}`, label, words, run: () => goTo(place) })

/** Puts the cursor into a field that is always there, and chooses what stands in it. */
const intoField = (id: string) => () => {
  const field = document.getElementById(id)
  if (field instanceof HTMLInputElement) field.select()
}

const endAndThen = (others: boolean, then: () => void) => () => void endSession(others).then(then, (error: Error) => say(error.message, 'fault'))

/** What belongs to the project as a whole, and to this browser. */
const COMMON: Command[] = [
  way('contact-sheet', 'Go to the contact sheet', 'pictures photos import'),
  way('desk', 'Go to the desk', 'run sheet easel'),
  way('sound', 'Go to the sound', 'music songs levels'),
  way('workshop', 'Go to the workshop', 'templates drop zones dials make'),
  { id: 'projects', label: 'All projects', words: 'home open another', run: goToProjects },
  { id: 'title', label: 'Rename the project', words: 'title name', run: intoField('project-title') },
  { id: 'scene-name', label: 'Rename the scene', words: 'title name', place: 'desk', possible: someScene, run: intoField('scene-name') },
  dialog('export', 'Export the film…', 'render deliver download mp4 gif still sound'),
  dialog('settings', 'Project settings…', 'defaults fields mount join hold'),
  dialog('frame', 'Change the frame…', 'shape size rate 16:9 9:16 square pixels'),
  dialog('versions', 'Named versions…', 'history return'),
  dialog('keys', 'List of keys', 'shortcuts keyboard help'),
  dialog('carry', 'Carry to other scenes…', 'copy paste attributes', { at: 'desk', possible: () => somePhoto() || firstChosen()?.layer.kind === 'text' }),
  { id: 'theme', label: 'All dark, or light paper', words: 'theme night', run: () => setTheme(useTheme.getState().theme === 'dark' ? 'paper' : 'dark') },
  { id: 'sign-out-others', label: 'Sign out all other browsers', run: endAndThen(true, () => say('All other browsers are signed out.')) },
  { id: 'sign-out', label: 'Sign out this browser', run: endAndThen(false, () => location.assign('/')) },
]

/** Every action there is that can be done now, from the place one is in. A feature's own: a line here. */
export const listed = (place: Place): Command[] =>
  possibleOf(
    [
      ...KEYED,
      ...COMMON,
      ...layerCommands(),
      ...letterCommands(),
      ...easelCommands(),
      ...sceneCommands(),
      ...lookCommands(),
      ...layoutCommands(),
      ...templateCommands(),
      ...fillingCommands,
      ...tableCommands,
      ...workshopCommands(),
      ...motionCommands(),
      ...keyCommands(),
      ...joinCommands(),
      ...soundCommands(),
      ...pictureCommands(),
    ].filter((c) => (!c.place || c.place === place) && c.id !== `place-${place}`),
  )
