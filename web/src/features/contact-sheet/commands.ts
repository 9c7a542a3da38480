import type { EditOf } from '@/api/client'
import { treatPictures } from '@/features/templates'
import type { Command } from '@/project/command'
import { edit } from '@/project/connection'
import { goTo } from '@/project/places'
import { ownPictures } from '@/project/project'
import { now } from '@/project/session'
import { askForFiles } from '@/ui/files'
import { say } from '@/ui/notices'
import { pour, putIntoFilm, putTogether, removePictures, replaceFile } from './actions'
import { listedNow } from './listed'
import { ACCEPTED, READABLE } from './readable'
import { sendAll } from './sending'
import { choosePictures, type Listing, listAs, openPicture, showPicture, trim, useShowing } from './showing'

const at = 'contact-sheet' as const
const chosen = () => listedNow().chosen
const some =
  (least = 1) =>
  () =>
    chosen().length >= least
const several = () => ownPictures(now().document.media).length > 1

const send = (files: File[]) => void (files.length && sendAll(files))

export const ADD_PICTURES: Command = {
  id: 'add-pictures',
  label: 'Add pictures…',
  words: 'import photos clips files',
  at,
  run: () => void askForFiles({ accept: ACCEPTED }).then(send),
}

export const ADD_FOLDER: Command = {
  id: 'add-folder',
  label: 'Add a folder of pictures…',
  words: 'import photos directory',
  at,
  run: () => void askForFiles({ folder: true }).then((files) => send(files.filter((f) => READABLE.test(f.name)))),
}

const sort = (by: EditOf<'sort_pictures'>['by'], short: string): Command => ({
  id: `sort-${by}`,
  label: `Order the pictures ${short[0]?.toLowerCase()}${short.slice(1)}`,
  short,
  words: 'sort arrange',
  at,
  possible: several,
  run: () => void edit({ edit: 'sort_pictures', by }),
})

/** Orders of the pictures. */
export const ORDERS: (Command | 'rule')[] = [
  sort('name', 'By name'),
  sort('captured', 'By capture time'),
  sort('shape', 'By shape'),
  'rule',
  {
    id: 'sort-reverse',
    label: 'Reverse the order of the pictures',
    short: 'Reversed',
    words: 'sort',
    at,
    possible: several,
    run: () => void edit({ edit: 'arrange_pictures', how: 'reverse', seed: 1 }),
  },
  {
    id: 'sort-shuffle',
    label: 'Shuffle the pictures',
    short: 'Shuffled',
    words: 'order random',
    at,
    possible: several,
    run: () => void edit({ edit: 'arrange_pictures', how: 'shuffle', seed: Math.floor(Math.random() * 10_000) }),
  },
]

const turn = (quarters: 1 | -1, label: string, short: string): Command => ({
  id: quarters > 0 ? 'turn-right' : 'turn-left',
  label,
  short,
  words: 'rotate upright',
  at,
  possible: some(),
  run: () => void edit({ edit: 'turn_pictures', ids: chosen(), quarters }),
})

const flip = (axis: EditOf<'flip_pictures'>['axis'], way: string): Command => ({
  id: `flip-${axis}`,
  label: `Flip the chosen pictures ${way}`,
  short: `Flip ${way}`,
  words: 'mirror',
  at,
  possible: some(),
  run: () => void edit({ edit: 'flip_pictures', ids: chosen(), axis }),
})

export const CORRECT: Command = {
  id: 'correct',
  label: 'Correct the picture…',
  short: 'Correct',
  words: 'light colour crop straighten enlarge',
  at,
  possible: some(),
  run: () => openPicture(chosen()[0] ?? null),
}
export const TURN: Command = turn(1, 'Turn the chosen pictures to the right', 'Turn')
export const TRIM: Command = { id: 'trim', label: 'Trim the borders of the chosen pictures…', short: 'Trim borders', words: 'scan crop', at, possible: some(), run: () => trim(chosen()) }

/** Says what was put into the film, and the way there. */
const told = (text: string | null) => text && say(text, 'news', { label: 'Go to the desk', run: () => goTo('desk') })

export const TOGETHER: Command = {
  id: 'together',
  label: 'Put the chosen pictures together in one scene',
  short: 'Together in one scene',
  words: 'composition several',
  at,
  possible: some(2),
  run: () => void putTogether(chosen()).then(told),
}

export const TREAT: Command = {
  id: 'treat-pictures',
  label: 'Make scenes of the chosen pictures with a template…',
  short: 'Treat with…',
  words: 'template treatment library',
  at,
  possible: some(),
  run: () => treatPictures(chosen()),
}

/** Those chosen, or all that are in no scene yet. */
export const INTO_FILM: Command = {
  id: 'into-film',
  label: 'Put the chosen pictures (or all unused ones) into the film',
  words: 'scenes',
  at,
  possible: () => chosen().length + listedNow().unused.length > 0,
  run: () => {
    const { unused } = listedNow()
    void putIntoFilm(chosen().length ? chosen() : unused).then(told)
  },
}

/** The same into the film's template: its empty zones first, then as many scenes more as they take. */
export const POUR: Command = {
  id: 'pour-pictures',
  label: 'Fill the film’s template with the chosen pictures (or all unused ones)',
  short: 'Into the template',
  words: 'drop zones empty pour',
  at,
  possible: () => chosen().length + listedNow().unused.length > 0 && Object.values(now().document.scenes ?? {}).some((s) => s.template),
  run: () => {
    void pour(chosen().length ? chosen() : listedNow().unused).then(told)
  },
}

export const REMOVE: Command = {
  id: 'remove-pictures',
  label: 'Remove the chosen pictures',
  words: 'delete',
  at,
  possible: some(),
  run: () => {
    const { chosen: ids, uses } = listedNow()
    void removePictures(
      ids,
      ids.some((id) => uses[id]),
    ).then((done) => done && choosePictures([]))
  },
}

/** More that is done to the chosen pictures. */
export const MORE: (Command | 'rule')[] = [
  turn(-1, 'Turn the chosen pictures to the left', 'Turn to the left'),
  flip('across', 'left to right'),
  flip('down', 'top to bottom'),
  'rule',
  {
    id: 'replace-file',
    label: 'Replace the file of the picture…',
    short: 'Replace the file…',
    words: 'missing relink',
    at,
    possible: () => chosen().length === 1,
    run: () => {
      const [id] = chosen()
      void askForFiles({ accept: ACCEPTED, many: false }).then(([file]) => {
        if (id && file) void replaceFile(id, file)
      })
    },
  },
  {
    id: 'as-files',
    label: 'Chosen pictures as their files are',
    short: 'All as the files are',
    words: 'reset correction crop',
    at,
    possible: some(),
    run: () => void edit({ edit: 'set_pictures', ids: chosen(), crop: null, straighten: 0, correction: null }),
  },
]

export const SHOWN: [Listing['shown'], string][] = [
  ['all', 'All pictures'],
  ['used', 'In the film'],
  ['unused', 'Not in the film'],
  ['clips', 'Clips'],
]

/** All of them, and the way to each picture by its name. */
export const pictureCommands = (): Command[] => [
  ADD_PICTURES,
  ADD_FOLDER,
  CORRECT,
  TURN,
  TRIM,
  TOGETHER,
  TREAT,
  POUR,
  INTO_FILM,
  REMOVE,
  ...[...MORE, ...ORDERS].filter((c) => c !== 'rule'),
  ...SHOWN.map(([shown, label]): Command => ({ id: `list-${shown}`, label: `Contact sheet: ${label[0]?.toLowerCase()}${label.slice(1)}`, words: 'show filter', at, run: () => listAs({ shown }) })),
  { id: 'as-list', label: 'Contact sheet as a list, or as pictures', words: 'tiles lines', at, run: () => listAs({ asList: !useShowing.getState().listing.asList }) },
  { id: 'all-pictures', label: 'Choose all pictures that are listed', words: 'select', at, run: () => choosePictures(listedNow().order) },
  ...ownPictures(now().document.media).map(([id, m]): Command => ({ id: `picture-${id}`, label: `Show the picture ${m.name}`, words: m.description ?? '', at, run: () => showPicture(id) })),
]
