import { beforeEach, describe, expect, it } from 'vitest'
import { filmTime, ownTime, sceneTime } from './scene-time'
import { useProject } from './project'
import { chooseScenes } from './session'

const span = (scene: string, start: number) => ({ scene, join_start: start, hold_start: start + 10, hold_end: start + 90, end: start + 100 })

describe("a scene's own time", () => {
  beforeEach(() => {
    useProject.setState({
      timeline: { spans: [span('a', 0), span('b', 90)], length: 190, frames: 19, frame_ticks: 10 } as never,
      document: { scenes: { a: {}, b: { speed: 2 } } } as never,
    })
    chooseScenes(['b'])
  })

  it('runs at its speed from where the scene comes on screen', () => {
    expect(sceneTime()).toEqual({ start: 90, speed: 2 })
    expect(ownTime(140)).toBe(100)
    expect(filmTime(100)).toBe(140)
    for (const at of [90, 95, 190]) expect(filmTime(ownTime(at))).toBe(at)
  })

  it('is film time without a speed, and from the start without a scene', () => {
    chooseScenes(['a'])
    expect(ownTime(50)).toBe(50)
    chooseScenes([])
    expect(sceneTime()).toEqual({ start: 0, speed: 1 })
  })
})
