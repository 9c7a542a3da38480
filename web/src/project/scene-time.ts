import { useProject } from './project'
import { useSession } from './session'

/** When a scene is on screen, and how fast its own time runs against the film's. */
export type SceneTime = { start: number; speed: number }

/** The chosen scene's. */
export function sceneTime(): SceneTime {
  const { timeline, document } = useProject.getState()
  const { chosenScenes } = useSession.getState()
  const id = chosenScenes.at(-1)
  return { start: timeline.spans.find((s) => s.scene === id)?.join_start ?? 0, speed: (id && document.scenes?.[id]?.speed) || 1 }
}

/** A moment of the film in the chosen scene's own time, in ticks; lanes and keyframes count in it. */
export const ownTime = (at: number, { start, speed } = sceneTime()): number => (at - start) * speed

/** A moment of the chosen scene's own time in the film, in ticks. */
export const filmTime = (own: number, { start, speed } = sceneTime()): number => start + own / speed
