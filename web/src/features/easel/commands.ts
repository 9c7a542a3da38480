import { type Command, chosenScene, someReached } from '@/project/command'
import { edit } from '@/project/connection'
import type { EditOf } from '@/api/client'
import { now, reachedLayers, takeHoldOf, toggle } from '@/project/session'
import { POSTER } from './poster'

const desk = 'desk' as const

const align = (partial: Partial<EditOf<'align_layers'>>): void => void edit({ edit: 'align_layers', layers: reachedLayers(), on: chosenScene() || null, at: Math.round(now().playhead), ...partial })

const DOWN = ['top', 'middle', 'bottom'] as const
const ACROSS = ['left', 'middle', 'right'] as const
const WHERE = ['at the top left', 'at the top', 'at the top right', 'at the left', 'in the middle', 'at the right', 'at the bottom left', 'at the bottom', 'at the bottom right']

/** Nine places of the frame, or of its title-safe area where that is shown: row by row. */
export const putInPlace = (place: number): void => align({ across: ACROSS[place % 3], down: DOWN[Math.floor(place / 3)], to: now().safe ? 'safe' : 'frame' })

const PLACES = WHERE.map(
  (where, place): Command => ({
    id: `place-${DOWN[Math.floor(place / 3)]}-${ACROSS[place % 3]}`,
    label: `Place ${where}`,
    words: 'align position nine',
    at: desk,
    possible: someReached,
    run: () => putInPlace(place),
  }),
)

const atLeast = (count: number) => () => now().chosenLayers.length >= count

const together = (id: string, label: string, partial: Partial<EditOf<'align_layers'>>): Command => ({
  id: `align-${id}`,
  label,
  words: 'align',
  at: desk,
  possible: atLeast(2),
  run: () => align({ ...partial, to: 'layers' }),
})

const spread = (axis: EditOf<'distribute_layers'>['axis']): Command => ({
  id: `spread-${axis}`,
  label: `Spread evenly ${axis}`,
  words: 'distribute space',
  at: desk,
  possible: atLeast(3),
  run: () => void edit({ edit: 'distribute_layers', layers: now().chosenLayers, axis, on: chosenScene() || null }),
})

/** Edges together, even spaces. */
export const ALIGNING: (Command | 'rule')[] = [
  together('left', 'Left edges together', { across: 'left' }),
  together('across', 'Middles together, across', { across: 'middle' }),
  together('right', 'Right edges together', { across: 'right' }),
  together('top', 'Upper edges together', { down: 'top' }),
  together('down', 'Middles together, down', { down: 'middle' }),
  together('bottom', 'Lower edges together', { down: 'bottom' }),
  'rule',
  spread('across'),
  spread('down'),
]

const shown = (name: Parameters<typeof toggle>[0], short: string, label: string, words: string): Command => ({
  id: name,
  label,
  short,
  words,
  at: desk,
  on: () => now()[name],
  run: () => toggle(name),
})

const guides = () => now().document.guides ?? []
const guide = (id: string, label: string, axis: 'x' | 'y'): Command => ({ id, label, at: desk, run: () => void edit({ edit: 'set_guides', guides: [...guides(), { axis, at: 0.5 }] }) })

/** What is drawn over the frame or under it. */
export const OVER_THE_FRAME: (Command | 'rule')[] = [
  shown('thirds', 'Thirds', 'Thirds, shown or not', 'guides grid'),
  shown('safe', 'Title-safe area', 'Title-safe area, shown or not', 'guides'),
  shown('chequered', 'Transparency as chequers', 'Transparency as chequers, or black', 'alpha'),
  'rule',
  guide('guide-upright', 'Add an upright guide', 'x'),
  guide('guide-level', 'Add a level guide', 'y'),
  { id: 'guides-none', label: 'Remove all guides', at: desk, possible: () => guides().length > 0, run: () => void edit({ edit: 'set_guides', guides: [] }) },
]

const POSTER_BY_DEFAULT: Command = {
  id: 'poster-default',
  label: 'Poster by default: the first scene that shows something',
  words: 'thumbnail cover',
  at: desk,
  possible: () => Boolean(now().document.poster?.scene),
  run: () => void edit({ edit: 'set_poster', at: null }),
}

export const easelCommands = (): Command[] => [
  ...PLACES,
  POSTER,
  POSTER_BY_DEFAULT,
  ...[...ALIGNING, ...OVER_THE_FRAME].filter((c) => c !== 'rule'),
  {
    id: 'hold-picture',
    label: 'Drags move the picture in its window, or the window again',
    words: 'target crop',
    at: desk,
    possible: someReached,
    run: () => takeHoldOf(now().target === 'picture' ? 'layer' : 'picture'),
  },
]
