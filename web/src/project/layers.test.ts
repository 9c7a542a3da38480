import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Doc, Media } from '@/api/client'

vi.mock('@/api/client', () => ({ client: {}, settled: () => Promise.reject(new Error('not asked for here')), Refused: Error }))
vi.mock('@/ui/notices', () => ({ say: vi.fn() }))

const { layersOf, photosOf, pictureMark, useProject } = await import('./project')
const { chooseLayers, chooseScenes, reachedLayers, useSession } = await import('./session')

const photo = { kind: 'photo', media: 'p', view: { keys: {} } }
const shape = { kind: 'shape', form: {} }
const document = {
  scenes: { a: { order: 'F', layers: { one: photo, two: photo, sheet: shape } }, b: { order: 'V', layers: { one: photo } } },
  groups: { g: { name: 'Cards', layers: { inside: photo } } },
} as unknown as Doc

describe('what a change reaches', () => {
  beforeEach(() => {
    useProject.setState({ document })
    useSession.setState({ chosenScenes: ['a', 'b'], chosenLayers: [] })
  })

  it('is every photo of the chosen scenes as long as no layer is chosen', () => {
    expect(reachedLayers()).toEqual([
      { scene: 'a', layer: 'one' },
      { scene: 'a', layer: 'two' },
      { scene: 'b', layer: 'one' },
    ])
    expect(photosOf(['b'])).toEqual([{ scene: 'b', layer: 'one' }])
  })

  it('is the chosen layers alone once there are some', () => {
    chooseLayers([{ scene: 'a', layer: 'sheet' }])
    expect(reachedLayers()).toEqual([{ scene: 'a', layer: 'sheet' }])
  })

  it('forgets chosen layers when another scene is chosen', () => {
    chooseLayers([{ scene: 'b', layer: 'one' }])
    chooseScenes(['a'])
    expect(useSession.getState().chosenLayers).toEqual([])
  })

  it('finds the layers of scenes and of shared groups alike', () => {
    expect(Object.keys(layersOf(document, 'a'))).toEqual(['one', 'two', 'sheet'])
    expect(Object.keys(layersOf(document, 'g'))).toEqual(['inside'])
    expect(layersOf(document, 'gone')).toEqual({})
  })
})

describe('the mark of a picture', () => {
  const media = { sha256: 'f'.repeat(64), turned: 0, flipped: false, straighten: 0, crop: null, correction: null, clip: null } as unknown as Media

  it('changes with everything that changes how it looks, and with nothing else', () => {
    const mark = pictureMark(media)
    expect(pictureMark({ ...media, name: 'other' } as Media)).toBe(mark)
    for (const change of [{ turned: 1 }, { flipped: true }, { straighten: 2 }, { crop: { x: 0.1 } }, { correction: { exposure: 1 } }, { sha256: 'e'.repeat(64) }])
      expect(pictureMark({ ...media, ...change } as unknown as Media)).not.toBe(mark)
    expect(pictureMark(undefined)).toBe('')
  })
})
