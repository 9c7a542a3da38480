import type { EditOf } from '@/api/client'
import { catalogue } from '@/project/catalogue'
import type { Command } from '@/project/command'
import { edit } from '@/project/connection'
import { now, toggle, useSession } from '@/project/session'
import { chosenMarks, easeKeys, selectedLanes } from './actions'

const some = () => now().chosenKeys.length > 0
const paths = () => selectedLanes().filter((l) => l.property.endsWith('.path'))
const somePath = () => paths().length > 0
const path = () => chosenMarks().find((m) => m.row.kind === 'path')?.row

const turn = (how: EditOf<'turn_keys'>['how'], short: string, label: string): Command => ({
  id: `keys-${how}`,
  label,
  short,
  words: 'keyframes retime',
  at: 'desk',
  possible: some,
  run: () => void edit({ edit: 'turn_keys', keys: now().chosenKeys, how }),
})

const anchor = (at: EditOf<'set_keys'>['anchor'], short: string): Command => ({
  id: `keys-from-${at}`,
  label: `Chosen keyframes: ${short[0]?.toLowerCase()}${short.slice(1)}`,
  short,
  words: 'anchor',
  at: 'desk',
  possible: some,
  run: () => void edit({ edit: 'set_keys', keys: now().chosenKeys, anchor: at }),
})

const ofPath = (id: string, label: string, on: () => boolean, partial: () => Record<string, boolean>): Command => ({
  id: `path-${id}`,
  label,
  words: 'motion curve',
  at: 'desk',
  possible: somePath,
  on,
  run: () => void edit({ edit: 'set_lanes', lanes: paths(), ...partial() }),
})

/** What turns the chosen keyframes, or says what their time counts from. */
export const KEYS: (Command | 'rule')[] = [
  turn('reverse', 'Backwards in the same time', 'Chosen keyframes backwards in the same time'),
  turn('there_and_back', 'There and back again', 'Chosen keyframes there and back again'),
  turn('mirror', 'To the other side', 'Chosen keyframes to the other side'),
  'rule',
  anchor('start', 'Count from the scene’s start'),
  anchor('end', 'Count from the scene’s end'),
  anchor('fraction', 'Keep the share of the time'),
]

export const PATHS: Command[] = [
  ofPath(
    'even',
    'Path: one even pace',
    () => path()?.even ?? false,
    () => ({ even: !path()?.even }),
  ),
  ofPath(
    'along',
    'Path: turn along',
    () => path()?.turn_along ?? false,
    () => ({ turn_along: !path()?.turn_along }),
  ),
]

export const BENT: Command[] = [
  { ...ofPath('bent', 'Path: bent through its points', somePath, () => ({ bent: true })), on: undefined },
  { ...ofPath('straight', 'Path: straight, with corners', somePath, () => ({ bent: false })), on: undefined },
]

export const REMOVE_LANES: Command = {
  id: 'lane-away',
  label: 'Take the lanes of the chosen keyframes away',
  short: 'Take the lane away',
  words: 'remove animation',
  at: 'desk',
  danger: true,
  possible: some,
  run: () => void edit({ edit: 'remove_lanes', lanes: selectedLanes() }),
}

/** Opens the lanes of the chosen keyframes into curves; if all are open, closes them. */
function openLanes(): void {
  const lanes = selectedLanes().map((l) => `${l.scene}/${l.layer ?? ''}/${l.property}`)
  const open = now().openLanes
  useSession.setState({ openLanes: lanes.every((l) => open.includes(l)) ? open.filter((l) => !lanes.includes(l)) : [...new Set([...open, ...lanes])] })
}

export const keyCommands = (): Command[] => [
  ...catalogue().eases.map((e): Command => ({ id: `ease-${e.id}`, label: `Ease of the chosen keyframes: ${e.label}`, at: 'desk', possible: some, run: () => void easeKeys(e.id) })),
  ...KEYS.filter((c) => c !== 'rule'),
  ...PATHS,
  ...BENT,
  { id: 'curves', label: 'Curves of the chosen keyframes, open or closed', words: 'graph lane', at: 'desk', possible: some, run: openLanes },
  REMOVE_LANES,
  { id: 'lanes', label: 'Lanes, shown or not', words: 'keyframes timeline', at: 'desk', run: () => toggle('lanesShown') },
  { id: 'ghosts', label: 'Ghosts of earlier and later frames, or none', words: 'onion', at: 'desk', run: () => toggle('ghosts') },
]
