import type { Edit } from '@/api/client'
import { beforeEach, describe, expect, it, vi } from 'vitest'

const answers: (() => Promise<unknown>)[] = []
const asked: { path: string; body?: { base: number; edits: unknown[] }; request?: string }[] = []

vi.mock('@/api/client', () => {
  class Refused extends Error {
    constructor(
      readonly code: string,
      message: string,
      readonly status: number,
    ) {
      super(message)
    }
  }
  const call = (path: string, options?: { body?: { base: number; edits: unknown[] }; headers?: Record<string, string> }) => {
    asked.push({ path, body: options?.body, request: options?.headers?.['X-Oak-Request'] })
    return (answers.shift() ?? (() => Promise.reject(new Error('no answer prepared'))))()
  }
  return { Refused, client: { GET: call, POST: call }, openSession: () => Promise.resolve(), settled: (promise: Promise<unknown>) => promise }
})
vi.mock('@/ui/notices', () => ({ say: vi.fn() }))

const { Refused } = await import('@/api/client')
const { say } = await import('@/ui/notices')
const { edit, giveUpWaiting, openProject, undo, useKept } = await import('./connection')
const { photosOf, sceneAt, useProject } = await import('./project')
const { now, tryEdits, useSession } = await import('./session')

const all = () => ({ ...now(), ...useKept.getState() })

const scene = (order: string, name = order) => ({ order, name, hold: null, join: null, backdrop: null, layers: { photo: { kind: 'photo', media: 'p' } } })
const span = (id: string, start: number) => ({ scene: id, join_start: start, hold_start: start, hold_end: start + 10, end: start + 10 })
const timeline = (...ids: string[]) => ({ spans: ids.map((id, i) => span(id, i * 10)), length: ids.length * 10, frames: ids.length, frame_ticks: 10 })
const project = (revision = 3) => ({
  id: 'one',
  revision,
  document: { title: 'A', media: { p: { order: 'V' } }, scenes: { a: scene('F'), b: scene('V'), c: scene('k') } },
  timeline: timeline('a', 'b', 'c'),
  marks: { a: '1', b: '1', c: '1' },
  applied: { values: [10, 'auto'], scenes: { a: { hold: 0 }, b: { hold: 0 }, c: { hold: 0 } }, layers: { 'a/photo': { fit: 1 } } },
  undo: null,
  redo: null,
})
const changed = (revision: number, more: object = {}) => ({
  revision,
  title: null,
  frame: null,
  defaults: null,
  ends: null,
  looks: null,
  groups: null,
  guides: null,
  details: null,
  styles: null,
  fonts: null,
  sounds: null,
  songs: null,
  mix: null,
  media: {},
  scenes: {},
  timeline: timeline('a', 'b', 'c'),
  marks: {},
  applied: { values: [], scenes: {}, layers: {} },
  undo: 'Change',
  redo: null,
  ...more,
})
const answer = (value: unknown) => answers.push(() => Promise.resolve(value))

const named = (title: string): Edit => ({ edit: 'set_title', title })

describe('the open project', () => {
  beforeEach(async () => {
    answers.length = 0
    asked.length = 0
    vi.mocked(say).mockClear()
    useProject.setState({ id: '' })
    useSession.setState({ chosenScenes: [], tried: null, playhead: 0 })
    answer(project())
    await openProject('one')
    asked.length = 0
  })

  it('knows what applies to scenes and layers, as the server says, and forgets those that go', async () => {
    expect(useProject.getState().applied).toEqual({ a: { hold: 10 }, b: { hold: 10 }, c: { hold: 10 }, 'a/photo': { fit: 'auto' } })
    answer(changed(4, { scenes: { a: null, b: scene('V', 'B') }, timeline: timeline('b', 'c'), applied: { values: [20], scenes: { b: { hold: 0 } }, layers: {} } }))
    await edit(named('B'))
    expect(useProject.getState().applied).toEqual({ b: { hold: 20 }, c: { hold: 10 } })
  })

  it('opens with its first scene chosen', () => {
    expect(all()).toMatchObject({ revision: 3, chosenScenes: ['a'], kept: 'kept' })
    expect(photosOf(['a', 'b'])).toEqual([
      { scene: 'a', layer: 'photo' },
      { scene: 'b', layer: 'photo' },
    ])
    expect([-5, 0, 12, 25, 99].map((at) => sceneAt(useProject.getState().timeline, at))).toEqual(['a', 'a', 'b', 'c', 'c'])
  })

  it('takes over what an edit changed, and leaves the rest as it was', async () => {
    const untouched = useProject.getState().document.scenes?.c
    answer(changed(4, { title: 'B', scenes: { a: null, b: scene('V', 'Renamed') }, timeline: timeline('b', 'c') }))
    expect(await edit(named('anything'))).toBe(true)
    const state = all()
    expect(state.document.title).toBe('B')
    expect(Object.keys(state.document.scenes ?? {})).toEqual(['b', 'c'])
    expect(state.document.scenes?.c).toBe(untouched)
    expect(state.chosenScenes).toEqual(['b'])
    expect(state).toMatchObject({ revision: 4, undo: 'Change', kept: 'kept', tried: null })
  })

  it('sends edits one after another, each on the revision the one before left', async () => {
    answer(changed(4))
    answer(changed(5))
    answer(changed(6))
    await Promise.all([edit(named('first')), edit(named('second')), edit(named('third'), named('with it'))])
    expect(asked.map((a) => [a.body?.base, a.body?.edits.length])).toEqual([
      [3, 1],
      [4, 1],
      [5, 2],
    ])
  })

  it('ends a trial when the edit is refused, says why, and goes on', async () => {
    tryEdits([named('tried')])
    answers.push(() => Promise.reject(new Refused('edit.value', 'Too wide.', 422)))
    expect(await edit(named('bad'))).toBe(false)
    expect(all()).toMatchObject({ tried: null, kept: 'refused', revision: 3 })
    expect(say).toHaveBeenCalledWith('Too wide.', 'fault')
    answer(changed(4))
    expect(await edit(named('good'))).toBe(true)
  })

  it('shows the newest state after a conflict', async () => {
    answers.push(() => Promise.reject(new Refused('edit.conflict', 'Changed elsewhere.', 409)))
    answer(project(9))
    expect(await edit(named('late'))).toBe(false)
    expect(useProject.getState().revision).toBe(9)
  })

  it('says nothing when there is nothing to undo', async () => {
    answers.push(() => Promise.reject(new Refused('edit.nothing', 'There is nothing to undo.', 409)))
    await undo()
    expect(say).not.toHaveBeenCalled()
    expect(useKept.getState().kept).toBe('kept')
  })

  it('asks again, by the same name, until there is an answer, and says kept only then', async () => {
    vi.useFakeTimers()
    for (const status of [0, 503, 507]) answers.push(() => Promise.reject(new Refused('away', 'Away.', status)))
    answer(changed(4))
    answer(changed(5))
    const kept = Promise.all([edit(named('first')), edit(named('second'))])
    const seen = new Set<string>()
    for (let i = 0; i < 60; i += 1) {
      await vi.advanceTimersByTimeAsync(100)
      seen.add(`${useKept.getState().kept}: ${useKept.getState().why}`)
      if (useKept.getState().kept === 'kept') expect(asked.length).toBe(5)
    }
    expect(await kept).toEqual([true, true])
    expect([...seen].some((s) => s.startsWith('waiting: the disk is full'))).toBe(true)
    expect(asked.map((a) => a.body?.base)).toEqual([3, 3, 3, 3, 4])
    expect(new Set(asked.slice(0, 4).map((a) => a.request)).size).toBe(1)
    expect(asked[4]?.request).not.toBe(asked[0]?.request)
    expect(all()).toMatchObject({ kept: 'kept', wishes: [], revision: 5 })
    vi.useRealTimers()
  })

  it('gives up what waits when it is told to, and goes on after it', async () => {
    for (let i = 0; i < 3; i += 1) answers.push(() => Promise.reject(new Refused('network', 'Away.', 0)))
    const first = edit(named('first'))
    const second = edit(named('second'))
    await vi.waitFor(() => expect(useKept.getState().kept).toBe('waiting'))
    expect(useKept.getState().wishes.length).toBe(2)
    giveUpWaiting()
    expect(await Promise.all([first, second])).toEqual([false, false])
    answers.length = 0
    answer(changed(4))
    expect(await edit(named('third'))).toBe(true)
    expect(all()).toMatchObject({ kept: 'kept', wishes: [] })
  })
})
