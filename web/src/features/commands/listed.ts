import { endSession } from '@/api/client'
import { setTheme, useTheme } from '@/ui/theme'
import { showPicture } from '@/features/contact-sheet'
import { chooseJoin } from '@/features/joins'
import { easeKeys } from '@/features/lanes'
import { seek } from '@/playback/screen'
import { type DialogName, openDialog } from '@/project/dialogs'
import { inOrder } from '@/project/ordering'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { layersOf, newId, photosOf } from '@/project/project'
import { chooseLayers, chooseScenes, now, reachedLayers, space, toggle } from '@/project/session'
import { say } from '@/ui/notices'
import type { Command } from './command'

const scenes = () => now().chosenScenes
const scene = () => scenes().at(-1) ?? ''
const someScene = () => scenes().length > 0
const reached = () => reachedLayers().length > 0
const reachedPhotos = () => reachedLayers().filter((r) => layersOf(now().document, r.scene)[r.layer]?.kind === 'photo')
const somePhoto = () => reachedPhotos().length > 0
const moment = () => Math.round(now().playhead)

const dialog = (id: DialogName, label: string, more: Partial<Command> = {}): Command => ({ id: `dialog-${id}`, label, run: () => openDialog(id), ...more })

/** Dialogs by what they are for. */
const dialogs = (): Command[] => [
  dialog('export', 'Export the film…', { words: 'render deliver download mp4 gif still sound' }),
  dialog('settings', 'Project settings…', { words: 'defaults fields mount join hold' }),
  dialog('frame', 'Change the frame…', { words: 'shape size rate 16:9 9:16 square pixels' }),
  dialog('versions', 'Named versions…', { words: 'history return' }),
  dialog('times', 'Times of the scenes…', { at: 'desk', words: 'holds fit length longer shorter reverse order' }),
  dialog('looks', 'Looks…', { at: 'desk', possible: somePhoto, words: 'style mount shadow' }),
  dialog('carry', 'Carry to other scenes…', { at: 'desk', possible: somePhoto, words: 'copy paste attributes' }),
  dialog('layout', 'Lay out the photos…', { at: 'desk', possible: someScene, words: 'grid pile table arrange' }),
  dialog('move', 'Choose a move…', { at: 'desk', possible: reached, words: 'motion animate' }),
  dialog('entrance', 'Choose an entrance…', { at: 'desk', possible: reached, words: 'motion animate in' }),
  dialog('exit', 'Choose an exit…', { at: 'desk', possible: reached, words: 'motion animate out' }),
  dialog('camera-move', 'Choose a move of the camera…', { at: 'desk', possible: someScene }),
  dialog('add-photos', 'Add photos or clips to the scene…', { at: 'desk', possible: () => scenes().length === 1, words: 'picture layer' }),
  dialog('replace-picture', 'Replace the picture…', { at: 'desk', possible: () => scenes().length === 1 && now().chosenLayers.length > 0 && somePhoto(), words: 'swap relink' }),
  dialog('make-music', 'Make music…', { at: 'sound', words: 'song compose' }),
  { id: 'join', label: 'Choose the join into the scene…', words: 'transition', at: 'desk', possible: someScene, run: () => chooseJoin({ at: 'scene', scene: scene() }) },
  { id: 'beginning', label: 'Choose how the film begins…', words: 'transition fade', at: 'desk', possible: someScene, run: () => chooseJoin({ at: 'beginning' }) },
  { id: 'ending', label: 'Choose how the film ends…', words: 'transition fade', at: 'desk', possible: someScene, run: () => chooseJoin({ at: 'ending' }) },
]

/** Adding and changing layers. */
function layers(): Command[] {
  const add = (id: string, label: string, name: string, form: Record<string, unknown>): Command => ({
    id: `add-${id}`,
    label: `Add ${label}`,
    words: 'shape layer',
    at: 'desk',
    possible: someScene,
    run: () => {
      const [at, layer] = [scene(), newId()]
      void edit({ edit: 'add_shape', scene: at, id: layer, name, form }).then((done) => done && chooseLayers([{ scene: at, layer }]))
    },
  })
  const set = (id: string, label: string, partial: Record<string, unknown>, words = ''): Command => ({
    id,
    label,
    words,
    at: 'desk',
    possible: reached,
    run: () => void edit({ edit: 'set_layers', layers: reachedLayers(), ...partial }),
  })
  const photos = (id: string, label: string, partial: Record<string, unknown>, words = ''): Command => ({
    ...set(id, label, partial, words),
    possible: somePhoto,
    run: () => void edit({ edit: 'set_layers', layers: reachedPhotos(), ...partial }),
  })
  const place = (down: 'top' | 'middle' | 'bottom', across: 'left' | 'middle' | 'right', where: string): Command => ({
    id: `place-${down}-${across}`,
    label: `Place ${where}`,
    words: 'align position',
    at: 'desk',
    possible: reached,
    run: () => void edit({ edit: 'align_layers', layers: reachedLayers(), on: scene() || null, at: moment(), across, down, to: now().safe ? 'safe' : 'frame' }),
  })
  return [
    add('rectangle', 'a rectangle', 'Rectangle', { outline: 'rectangle' }),
    add('ellipse', 'an ellipse', 'Ellipse', { outline: 'ellipse', aspect: 1 }),
    add('polygon', 'a polygon', 'Polygon', { outline: 'polygon', aspect: 1 }),
    add('line', 'a line', 'Line', { outline: 'line' }),
    add('sheet', 'a sheet of colour', 'Colour', { outline: 'sheet', fill_opacity: 0.4 }),
    set('hide', 'Hide the chosen layers', { hidden: true }),
    set('show', 'Show the chosen layers again', { hidden: false }),
    set('lock', 'Lock the chosen layers', { locked: true }),
    set('unlock', 'Unlock the chosen layers', { locked: false }),
    set('mask', 'Mask the chosen layers by a shape', { mask: {} }),
    set('unmask', 'Take the mask away', { mask: null }),
    { id: 'reset-placement', label: 'Reset the placement', words: 'position size turn', at: 'desk', possible: reached, run: () => void edit({ edit: 'reset_placement', layers: reachedLayers() }) },
    photos('window', 'Give the photo a window', { window: {} }, 'crop frame'),
    photos('no-window', 'Take the window away', { window: null }, 'crop frame'),
    ...(['auto', 'whole', 'fill', 'free'] as const).map((fit) => photos(`fit-${fit}`, `Fit: ${{ auto: 'by shape', whole: 'whole picture', fill: 'filled frame', free: 'free' }[fit]}`, { fit })),
    photos('own-mount', 'Mount back to the look or default', { mount: null }),
    place('top', 'left', 'at the top left'),
    place('top', 'middle', 'at the top'),
    place('top', 'right', 'at the top right'),
    place('middle', 'left', 'at the left'),
    place('middle', 'middle', 'in the middle'),
    place('middle', 'right', 'at the right'),
    place('bottom', 'left', 'at the bottom left'),
    place('bottom', 'middle', 'at the bottom'),
    place('bottom', 'right', 'at the bottom right'),
  ]
}

/** Views, scenes, times and music. */
function scenesAndTimes(): Command[] {
  const arrange = (how: 'swap' | 'as_opening' | 'as_closing' | 'suggest', label: string): Command => ({
    id: `views-${how}`,
    label,
    words: 'opening closing',
    at: 'desk',
    possible: somePhoto,
    run: () => void edit({ edit: 'arrange_views', photos: reachedPhotos(), how, seed: how === 'suggest' ? Math.floor(Math.random() * 9999) : 0 }),
  })
  const onScenes = (id: string, label: string, partial: Record<string, unknown>, words = ''): Command => ({
    id,
    label,
    words,
    at: 'desk',
    possible: someScene,
    run: () => void edit({ edit: 'set_scenes', ids: scenes(), ...partial }),
  })
  const music = () => Object.keys(now().document.songs ?? {}).length > 0
  return [
    arrange('swap', 'Swap opening and closing view'),
    arrange('as_opening', 'Make the closing view as the opening one'),
    arrange('as_closing', 'Make the opening view as the closing one'),
    arrange('suggest', 'Suggest views'),
    onScenes('hold-default', 'Hold as the project’s default', { hold: null }, 'time'),
    onScenes('camera-home', 'Camera back home', { camera: null }),
    onScenes('light-on', 'Switch a lamp on', { light: {} }, 'light'),
    onScenes('light-off', 'Switch the lamp off', { light: null }, 'light'),
    onScenes('backdrop-default', 'Backdrop back to the look or default', { backdrop: null }),
    { id: 'film-to-music', label: 'Film to music: it ends with the music', words: 'fit', possible: music, run: () => void edit({ edit: 'fit_film' }) },
    { id: 'music-to-film', label: 'Music to film: it ends with the film', words: 'fit trim', possible: music, run: () => void edit({ edit: 'fit_music' }) },
    { id: 'reverse', label: 'Reverse the order of the chosen scenes', at: 'desk', possible: () => scenes().length > 1, run: () => void edit({ edit: 'reverse_scenes', ids: scenes() }) },
  ]
}

/** What is drawn besides the film, and how the desk looks. */
function looking(): Command[] {
  const shown = (id: string, label: string, name: Parameters<typeof toggle>[0], words = ''): Command => ({ id, label, words, at: 'desk', run: () => toggle(name) })
  const guides = () => now().document.guides ?? []
  return [
    shown('thirds', 'Thirds, shown or not', 'thirds', 'guides grid'),
    shown('safe', 'Title-safe area, shown or not', 'safe', 'guides'),
    shown('chequered', 'Transparency as chequers, or black', 'chequered', 'alpha'),
    shown('ghosts', 'Ghosts of earlier and later frames, or none', 'ghosts', 'onion'),
    shown('lanes', 'Lanes, shown or not', 'lanesShown', 'keyframes timeline'),
    { id: 'spacing', label: 'Run sheet even, or to time', words: 'waveform beats', at: 'desk', run: () => space(now().spacing === 'even' ? 'time' : 'even') },
    { id: 'guide-upright', label: 'Add an upright guide', at: 'desk', run: () => void edit({ edit: 'set_guides', guides: [...guides(), { axis: 'x', at: 0.5 }] }) },
    { id: 'guide-level', label: 'Add a level guide', at: 'desk', run: () => void edit({ edit: 'set_guides', guides: [...guides(), { axis: 'y', at: 0.5 }] }) },
    { id: 'guides-none', label: 'Remove all guides', at: 'desk', possible: () => guides().length > 0, run: () => void edit({ edit: 'set_guides', guides: [] }) },
    { id: 'theme', label: 'All dark, or light paper', words: 'theme night', run: () => setTheme(useTheme.getState().theme === 'dark' ? 'paper' : 'dark') },
    {
      id: 'sign-out-others',
      label: 'Sign out all other browsers',
      run: () =>
        void endSession(true).then(
          () => say('All other browsers are signed out.'),
          (e: Error) => say(e.message, 'fault'),
        ),
    },
    {
      id: 'sign-out',
      label: 'Sign out this browser',
      run: () =>
        void endSession(false).then(
          () => location.assign('/'),
          (e: Error) => say(e.message, 'fault'),
        ),
    },
  ]
}

/** What the catalogue and the project name: looks, moves, joins, layouts, eases. */
function named(): Command[] {
  const { document } = now()
  const own = Object.entries(document.looks ?? {}).filter(([id]) => !catalogue().looks.some((l) => l.id === id))
  const looks = [...own.map(([id, look]) => [id, look.name] as const), ...catalogue().looks.map((l) => [l.id, l.label] as const)]
  const moves = [...Object.entries(document.moves ?? {}).map(([id, m]) => ({ id, label: m.name, exit_label: '', kind: m.kind ?? 'move' })), ...catalogue().moves]
  const slots = (kind: string) => (kind === 'camera' ? ['camera'] : kind === 'entrance' ? ['entrance', 'exit'] : ['move'])
  const use = (slot: string, id: string, label: string): Command => {
    const camera = slot === 'camera'
    const to = () => (camera ? scenes().map((s) => ({ scene: s, layer: null })) : reachedLayers())
    return {
      id: `${slot}-${id}`,
      label: `${{ camera: 'Camera move', move: 'Move', entrance: 'Entrance', exit: 'Exit' }[slot]}: ${label}`,
      at: 'desk',
      possible: () => to().length > 0,
      run: () => void edit({ edit: 'use_move', to: to(), slot: camera ? 'move' : (slot as 'move'), move: id }),
    }
  }
  return [
    ...looks.map(
      ([id, label]): Command => ({
        id: `look-${id}`,
        label: `Look: ${label}`,
        at: 'desk',
        possible: somePhoto,
        run: () => void edit({ edit: 'use_look', look: id, photos: reachedPhotos(), linked: true }),
      }),
    ),
    ...moves.flatMap((m) => slots(m.kind).map((slot) => use(slot, m.id, (slot === 'exit' && m.exit_label) || m.label))),
    ...catalogue().joins.map(
      (j): Command => ({
        id: `join-${j.id}`,
        label: `Join: ${j.label}`,
        words: `transition ${j.help}`,
        at: 'desk',
        possible: someScene,
        run: () => void edit({ edit: 'set_scenes', ids: scenes(), join: { kind: j.id, ...j.preset } }),
      }),
    ),
    ...catalogue().layouts.map(
      (l): Command => ({
        id: `layout-${l.id}`,
        label: `Layout: ${l.label}`,
        words: l.help,
        at: 'desk',
        possible: () => photosOf(scenes()).length >= l.least && someScene(),
        run: () => void edit({ edit: 'apply_layout', scenes: scenes(), layout: { kind: l.id } }),
      }),
    ),
    ...catalogue().eases.map(
      (e): Command => ({ id: `ease-${e.id}`, label: `Ease of the chosen keyframes: ${e.label}`, at: 'desk', possible: () => now().chosenKeys.length > 0, run: () => void easeKeys(e.id) }),
    ),
  ]
}

/** Scenes by name. */
const goTo = (): Command[] =>
  inOrder(now().document.scenes).map(
    ([id, s], i): Command => ({
      id: `go-${id}`,
      label: `Go to scene ${i + 1}: ${s.name || 'Scene'}`,
      at: 'desk',
      run: () => {
        chooseScenes([id])
        const span = now().timeline.spans.find((p) => p.scene === id)
        if (span) seek(span.hold_start)
      },
    }),
  )

/** Pictures by name. */
const pictures = (): Command[] =>
  inOrder(now().document.media).map(([id, m]): Command => ({ id: `picture-${id}`, label: `Show the picture ${m.name}`, words: m.description ?? '', at: 'contact-sheet', run: () => showPicture(id) }))

/** Every action that has no key, as things stand now. */
export const listed = (): Command[] => [...dialogs(), ...layers(), ...scenesAndTimes(), ...looking(), ...named(), ...goTo(), ...pictures()]
