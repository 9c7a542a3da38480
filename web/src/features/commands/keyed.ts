import { findNumber } from '@/features/details'
import { toggleFullScreen } from '@/features/easel'
import { chooseAllKeys, copyKeys, deleteKeys, forgetCopied, hasCopied, pasteKeys, setKeysHere, stepToKey } from '@/features/lanes'
import { ADD_TEXT } from '@/features/letters'
import { copyLayers, duplicateLayers, forgetLayersCopied, GROUP, hasLayersCopied, pasteLayers, removeLayers } from '@/features/layers'
import { startPlaying, stepFrames, stopPlaying, togglePlaying } from '@/playback/screen'
import { type Command, control, letter, plain } from '@/project/command'
import { inOrder } from '@/project/ordering'
import { duplicateScenes, removeScenes } from '@/project/scene-actions'
import { redo, undo } from '@/project/connection'
import { layersOf } from '@/project/project'
import { chooseLayers, chooseScenes, lookAt, now, toggle } from '@/project/session'

const desk = 'desk' as const

/** All keyframes of the scene if one is chosen, else all its layers if one is, else all scenes. */
function chooseAll(): void {
  const { chosenKeys, chosenLayers, chosenScenes, document } = now()
  const scene = chosenScenes.at(-1)
  if (chosenKeys.length) chooseAllKeys()
  else if (chosenLayers.length && scene) chooseLayers(inOrder(layersOf(document, scene)).map(([layer]) => ({ scene, layer })))
  else chooseScenes(inOrder(document.scenes).map(([id]) => id))
}

function loop(): void {
  toggle('loopScene')
  if (now().playing) {
    stopPlaying()
    startPlaying()
  }
}

const look = (looking: 'live' | 'views' | 'plan') => () => {
  if (looking === 'views') stopPlaying()
  lookAt(looking)
}

/** Actions with keys of their own. */
export const KEYED: Command[] = [
  { id: 'play', label: 'Play or pause', keys: 'Space', place: desk, match: (e) => plain(e) && e.key === ' ', run: togglePlaying },
  { id: 'back', label: 'One frame back', keys: ',', place: desk, match: (e) => plain(e) && e.key === ',', run: () => stepFrames(-1) },
  { id: 'on', label: 'One frame on', keys: '.', place: desk, match: (e) => plain(e) && e.key === '.', run: () => stepFrames(1) },
  { id: 'start', label: 'To the start of the film', keys: 'Home', place: desk, match: (e) => plain(e) && e.key === 'Home', run: () => stepFrames(-1e9) },
  { id: 'end', label: 'To the end of the film', keys: 'End', place: desk, match: (e) => plain(e) && e.key === 'End', run: () => stepFrames(1e9) },
  { id: 'loop', label: 'Loop the chosen scene, or not', keys: 'O', place: desk, match: letter('o'), run: loop },
  { id: 'live', label: 'Look at the film live', keys: '1', place: desk, match: letter('1'), run: look('live') },
  { id: 'views', label: 'Look at opening and closing view', keys: '2', place: desk, match: letter('2'), run: look('views') },
  { id: 'plan', label: 'Look at the plan', words: 'camera above side', keys: '3', place: desk, match: letter('3'), run: look('plan') },
  { id: 'record', label: 'Record changes as keyframes, or not', keys: 'R', place: desk, match: letter('r'), run: () => toggle('recording') },
  { id: 'key', label: 'Set keyframes at the playhead', keys: 'K', place: desk, match: letter('k'), run: () => void setKeysHere() },
  {
    id: 'key-before',
    label: 'To the keyframe before',
    keys: 'Shift ,',
    place: desk,
    match: (e) => plain(e) && (e.key === '<' || e.key === ';' || (e.shiftKey && e.key === ',')),
    run: () => stepToKey(-1),
  },
  { id: 'key-next', label: 'To the next keyframe', keys: 'Shift .', place: desk, match: (e) => plain(e) && (e.key === '>' || e.key === ':' || (e.shiftKey && e.key === '.')), run: () => stepToKey(1) },
  { id: 'all', label: 'Choose all keyframes, layers or scenes: of what is chosen now', keys: 'Ctrl A', place: desk, match: control('a'), run: chooseAll },
  {
    id: 'copy',
    label: 'Copy the chosen keyframes',
    keys: 'Ctrl C',
    place: desk,
    match: (e) => control('c')(e) && now().chosenKeys.length > 0,
    possible: () => now().chosenKeys.length > 0,
    run: () => {
      forgetLayersCopied()
      copyKeys()
    },
  },
  { id: 'paste', label: 'Paste keyframes at the playhead', keys: 'Ctrl V', place: desk, match: (e) => control('v')(e) && hasCopied(), run: () => void pasteKeys() },
  {
    id: 'copy-layers',
    label: 'Copy the chosen layers',
    words: 'text photo shape',
    keys: 'Ctrl C',
    place: desk,
    match: (e) => control('c')(e) && now().chosenLayers.length > 0,
    possible: () => now().chosenLayers.length > 0,
    run: () => {
      forgetCopied()
      copyLayers()
    },
  },
  {
    id: 'paste-layers',
    label: 'Paste the copied layers into the scene',
    words: 'text photo shape',
    keys: 'Ctrl V',
    place: desk,
    match: (e) => control('v')(e) && hasLayersCopied(),
    run: () => void pasteLayers(),
  },
  { id: 'full', label: 'Full screen, or back', keys: 'F', place: desk, match: letter('f'), run: toggleFullScreen },
  { id: 'find-number', label: 'Find a number of what is chosen', words: 'details property search', keys: '/', place: desk, match: (e) => plain(e) && e.key === '/', run: findNumber },
  { id: 'undo', label: 'Undo', words: 'take back', keys: 'Ctrl Z', match: control('z'), possible: () => now().undo !== null, run: () => void undo() },
  { id: 'redo', label: 'Redo', words: 'again', keys: 'Ctrl Shift Z', match: (e) => control('z', true)(e) || control('y')(e), possible: () => now().redo !== null, run: () => void redo() },
  {
    id: 'duplicate',
    label: 'Duplicate the chosen layers or scenes',
    words: 'copy',
    keys: 'Ctrl D',
    place: desk,
    match: control('d'),
    run: () => void (now().chosenLayers.length ? duplicateLayers() : duplicateScenes()),
  },
  GROUP,
  ADD_TEXT,
  {
    id: 'delete',
    label: 'Delete the chosen keyframes, layers or scenes',
    words: 'remove',
    keys: 'Delete',
    place: desk,
    match: (e) => plain(e) && e.key === 'Delete',
    run: () => void (now().chosenKeys.length ? deleteKeys() : now().chosenLayers.length ? removeLayers() : removeScenes()),
  },
]
