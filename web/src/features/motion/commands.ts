import { catalogue } from '@/project/catalogue'
import { type Command, somePhoto, someReached, someScene } from '@/project/command'
import { edit } from '@/project/connection'
import { type DialogName, openDialog } from '@/project/dialogs'
import { isText } from '@/project/chosen'
import { now, reachedLayers, reachedPhotos, takeHoldOf } from '@/project/session'

const dialog = (id: DialogName, label: string, words: string, possible: () => boolean): Command => ({ id: `dialog-${id}`, label, words, at: 'desk', possible, run: () => openDialog(id) })

const arrange = (how: 'swap' | 'as_opening' | 'as_closing' | 'suggest', label: string): Command => ({
  id: `views-${how}`,
  label,
  words: 'opening closing',
  at: 'desk',
  possible: somePhoto,
  run: () => void edit({ edit: 'arrange_views', photos: reachedPhotos(), how, seed: how === 'suggest' ? Math.floor(Math.random() * 9999) : 0 }),
})

const scenes = (id: string, label: string, partial: Record<string, unknown>, words = ''): Command => ({
  id,
  label,
  words,
  at: 'desk',
  possible: someScene,
  run: () => void edit({ edit: 'set_scenes', ids: now().chosenScenes, ...partial }),
})

const SLOTS = { camera: 'Camera move', move: 'Move', entrance: 'Entrance', exit: 'Exit' }
const slotsOf = (kind: string): (keyof typeof SLOTS)[] => (kind === 'camera' ? ['camera'] : kind === 'entrance' ? ['entrance', 'exit'] : ['move'])

function use(slot: keyof typeof SLOTS, id: string, label: string, letters: boolean): Command {
  const camera = slot === 'camera'
  const to = () => (camera ? now().chosenScenes.map((scene) => ({ scene, layer: null })) : reachedLayers())
  return {
    id: `${slot}-${id}`,
    label: `${SLOTS[slot]}: ${label}`,
    at: 'desk',
    possible: () => to().length > 0 && (!letters || to().every(isText)),
    run: () => void edit({ edit: 'use_move', to: to(), slot: camera ? 'move' : (slot as 'move'), move: id }),
  }
}

/** Moves by their names, views, camera and lamp. */
export function motionCommands(): Command[] {
  const moves = [...Object.entries(now().document.moves ?? {}).map(([id, m]) => ({ id, label: m.name, exit_label: '', kind: m.kind ?? 'move', spread: m.spread ?? null })), ...catalogue().moves]
  return [
    dialog('move', 'Choose a move…', 'motion animate', someReached),
    dialog('entrance', 'Choose an entrance…', 'motion animate in', someReached),
    dialog('exit', 'Choose an exit…', 'motion animate out', someReached),
    dialog('camera-move', 'Choose a move of the camera…', 'motion animate', someScene),
    ...moves.flatMap((m) => slotsOf(m.kind).map((slot) => use(slot, m.id, (slot === 'exit' && m.exit_label) || m.label, m.spread !== null))),
    arrange('swap', 'Swap opening and closing view'),
    arrange('as_opening', 'Make the closing view as the opening one'),
    arrange('as_closing', 'Make the opening view as the closing one'),
    arrange('suggest', 'Suggest views'),
    {
      id: 'hold-camera',
      label: 'Move the camera on the easel, or its layers again',
      words: 'target drag',
      at: 'desk',
      possible: someScene,
      run: () => takeHoldOf(now().target === 'camera' ? 'layer' : 'camera'),
    },
    scenes('camera-home', 'Camera back home', { camera: null }),
    scenes('light-on', 'Switch a lamp on', { light: {} }, 'light'),
    scenes('light-off', 'Switch the lamp off', { light: null }, 'light'),
  ]
}
