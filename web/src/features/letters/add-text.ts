import { type Command, letter, someScene } from '@/project/command'

/** It has a key of its own; what it does is loaded when it is first done. */
export const ADD_TEXT: Command = {
  id: 'add-text',
  label: 'Add a text',
  short: 'Text',
  words: 'title caption letters write type',
  keys: 'T',
  place: 'desk',
  match: letter('t'),
  possible: someScene,
  run: () => void import('./adding').then((m) => m.addText()),
}
