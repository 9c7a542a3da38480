import { edit } from '@/project/connection'
import { type Command, chosenScene, firstChosen, somePhoto, someReached, someScene } from '@/project/command'
import { openDialog } from '@/project/dialogs'
import { layersOf, newId } from '@/project/project'
import { chooseLayers, now, reachedLayers, reachedPhotos } from '@/project/session'
import { GROUP, shiftLayers } from './layer-actions'
import { renameLayer } from './renaming'

const desk = 'desk' as const
const chosen = () => now().chosenLayers
const someLayer = () => chosen().length > 0

const shape = (id: string, short: string, label: string, name: string, form: Record<string, unknown>): Command => ({
  id: `add-${id}`,
  label: `Add ${label}`,
  short,
  words: 'shape layer',
  at: desk,
  possible: someScene,
  run: () => {
    const [scene, layer] = [chosenScene(), newId()]
    void edit({ edit: 'add_shape', scene, id: layer, name, form }).then((done) => done && chooseLayers([{ scene, layer }]))
  },
})

export const ADD_PHOTOS: Command = {
  id: 'dialog-add-photos',
  label: 'Add photos or clips to the scene…',
  short: 'Photos or clips…',
  words: 'picture layer',
  at: desk,
  possible: () => now().chosenScenes.length === 1,
  run: () => openDialog('add-photos'),
}

export const SHAPES: Command[] = [
  shape('rectangle', 'Rectangle', 'a rectangle', 'Rectangle', { outline: 'rectangle' }),
  shape('ellipse', 'Ellipse', 'an ellipse', 'Ellipse', { outline: 'ellipse', aspect: 1 }),
  shape('polygon', 'Polygon', 'a polygon', 'Polygon', { outline: 'polygon', aspect: 1 }),
  shape('line', 'Line', 'a line', 'Line', { outline: 'line' }),
  shape('sheet', 'Sheet of colour', 'a sheet of colour', 'Colour', { outline: 'sheet', fill_opacity: 0.4 }),
  shape('gradient', 'Sheet with a gradient', 'a sheet with a gradient', 'Gradient', {
    outline: 'sheet',
    fill: 'linear',
    colour: '#000000',
    fill_opacity: 0,
    second_colour: '#000000',
    second_opacity: 0.7,
  }),
]

/** The groups that several scenes share, each to be put into the scene as well. */
export const sharedGroups = (): Command[] =>
  Object.entries(now().document.groups ?? {}).map(([id, group]) => ({
    id: `add-group-${id}`,
    label: `Add the shared group: ${group.name || 'Group'}`,
    short: `Shared group: ${group.name || 'Group'}`,
    at: desk,
    possible: someScene,
    run: () => void edit({ edit: 'add_group', scene: chosenScene(), layer: newId(), shared: id }),
  }))

const onlyGroup = () => {
  const first = firstChosen()
  return first?.layer.kind === 'group' ? { ref: first.ref, group: first.layer } : null
}

/** What is done to the chosen layers as a whole. */
export const GROUPING: Command[] = [
  {
    id: 'dialog-replace-picture',
    label: 'Replace the picture…',
    words: 'swap relink',
    at: desk,
    possible: () => now().chosenScenes.length === 1 && someLayer() && somePhoto(),
    run: () => openDialog('replace-picture'),
  },
  GROUP,
  {
    id: 'ungroup',
    label: 'Ungroup: its layers by themselves again',
    short: 'Ungroup',
    at: desk,
    possible: () => onlyGroup() !== null,
    run: () => {
      const group = onlyGroup()
      if (group) void edit({ edit: 'ungroup_layers', layers: [group.ref] })
    },
  },
  {
    id: 'share-group',
    label: 'Share the group with other scenes',
    at: desk,
    possible: () => {
      const group = onlyGroup()
      return group !== null && !group.group.shared
    },
    run: () => {
      const group = onlyGroup()
      if (group) void edit({ edit: 'share_group', ...group.ref, id: `g-${newId()}` })
    },
  },
  {
    id: 'out-of-group',
    label: 'Take the chosen layers out of the group',
    short: 'Take out of the group',
    at: desk,
    possible: () => Boolean(firstChosen()?.layer.parent),
    run: () => void edit({ edit: 'move_layers', layers: chosen(), parent: null }),
  },
]

const set = (id: string, label: string, partial: Record<string, unknown>, words = ''): Command => ({
  id,
  label,
  words,
  at: desk,
  possible: someReached,
  run: () => void edit({ edit: 'set_layers', layers: reachedLayers(), ...partial }),
})

const photos = (id: string, label: string, partial: Record<string, unknown>, words = ''): Command => ({
  ...set(id, label, partial, words),
  possible: somePhoto,
  run: () => void edit({ edit: 'set_layers', layers: reachedPhotos(), ...partial }),
})

const whole = () => (reachedPhotos().every((r) => (layersOf(now().document, r.scene)[r.layer] as { window?: unknown }).window) ? reachedPhotos() : [])
const AS_FITTED = { x: 0, y: 0, zoom: 1, turn: 0 }
const FITS = { auto: 'by shape', whole: 'whole picture', fill: 'filled frame', free: 'free' }

/** What the chosen layers (or, none chosen, the scene's photos) are like. */
export const STATES: Command[] = [
  set('hide', 'Hide the chosen layers', { hidden: true }),
  set('show', 'Show the chosen layers again', { hidden: false }),
  set('lock', 'Lock the chosen layers', { locked: true }),
  set('unlock', 'Unlock the chosen layers', { locked: false }),
  set('solo', 'Show the chosen layers alone', { solo: true }, 'solo'),
  set('no-solo', 'Show the others again, too', { solo: false }, 'solo'),
  set('mask', 'Mask the chosen layers by a shape', { mask: {} }),
  set('unmask', 'Take the mask away', { mask: null }),
  set('shadow', 'Cast a shadow', { shadow: {} }),
  set('no-shadow', 'Shadow back to the look or default, or none', { shadow: null }),
  { id: 'reset-placement', label: 'Reset the placement', words: 'position size turn', at: desk, possible: someReached, run: () => void edit({ edit: 'reset_placement', layers: reachedLayers() }) },
  { id: 'raise', label: 'Raise the chosen layers by one', words: 'order above', at: desk, possible: someLayer, run: () => shiftLayers(1) },
  { id: 'lower', label: 'Lower the chosen layers by one', words: 'order below', at: desk, possible: someLayer, run: () => shiftLayers(-1) },
  { id: 'rename-layer', label: 'Rename the layer', words: 'name title', at: desk, possible: someLayer, run: renameLayer },
  photos('window', 'Give the photo a window', { window: {} }, 'crop frame'),
  photos('no-window', 'Take the window away', { window: null }, 'crop frame'),
  {
    id: 'reset-window',
    label: 'Reset the picture in the window',
    words: 'crop views',
    at: desk,
    possible: () => whole().length > 0,
    run: () => void edit({ edit: 'set_views', photos: whole(), opening: AS_FITTED, closing: AS_FITTED }),
  },
  ...Object.entries(FITS).map(([fit, label]) => photos(`fit-${fit}`, `Fit: ${label}`, { fit })),
  photos('own-mount', 'Mount back to the look or default', { mount: null }),
  photos('own-correction', 'Correction back to the look or default', { correction: null }),
]

/** All of them, for the command list. */
export const layerCommands = (): Command[] => [ADD_PHOTOS, ...SHAPES, ...sharedGroups(), ...GROUPING.filter((c) => c !== GROUP), ...STATES]
