import { showScenes } from '@/playback/screen'
import { type Command, someScene } from '@/project/command'
import { edit } from '@/project/connection'
import { openDialog } from '@/project/dialogs'
import { inOrder } from '@/project/ordering'
import { shiftScenes } from '@/project/scene-actions'
import { now, space } from '@/project/session'

const scenes = () => now().chosenScenes
const desk = 'desk' as const

export const TIMES: Command = { id: 'dialog-times', label: 'Times of the scenes…', words: 'holds fit length longer shorter reverse order', at: desk, run: () => openDialog('times') }

/** Scenes: their order and times, and the way to each by its name. */
export const sceneCommands = (): Command[] => [
  TIMES,
  { id: 'hold-default', label: 'Hold as the project’s default', words: 'time', at: desk, possible: someScene, run: () => void edit({ edit: 'set_scenes', ids: scenes(), hold: null }) },
  { id: 'scenes-earlier', label: 'Move the chosen scenes earlier', words: 'order before', at: desk, possible: someScene, run: () => shiftScenes(-1) },
  { id: 'scenes-later', label: 'Move the chosen scenes later', words: 'order after', at: desk, possible: someScene, run: () => shiftScenes(1) },
  { id: 'reverse', label: 'Reverse the order of the chosen scenes', at: desk, possible: () => scenes().length > 1, run: () => void edit({ edit: 'reverse_scenes', ids: scenes() }) },
  { id: 'spacing', label: 'Run sheet even, or to time', words: 'waveform beats', at: desk, run: () => space(now().spacing === 'even' ? 'time' : 'even') },
  ...inOrder(now().document.scenes).map(
    ([id, s], i): Command => ({
      id: `go-${id}`,
      label: `Go to scene ${i + 1}: ${s.name || 'Scene'}`,
      at: desk,
      run: () => showScenes([id]),
    }),
  ),
]
