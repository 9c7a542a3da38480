import { describe, expect, it } from 'vitest'
import { type DragEvent, type DragState, dragged } from './drag'

function run(...events: DragEvent<string>[]): string[] {
  let state: DragState<string> = { phase: 'idle' }
  return events.map((event) => {
    const next = dragged(state, event)
    state = next.state
    return next.effect
  })
}

const press: DragEvent<string> = { kind: 'press', what: 'corner', at: [10, 10] }
const move = (x: number, y: number): DragEvent<string> => ({ kind: 'move', at: [x, y], constrain: false })

describe('a drag', () => {
  it('tries while moving and sets once at the end', () => expect(run(press, move(20, 10), move(30, 10), { kind: 'release' })).toEqual(['none', 'try', 'try', 'set']))
  it('is a click below the threshold', () => expect(run(press, move(11, 11), { kind: 'release' })).toEqual(['none', 'none', 'none']))
  it('gives up on a cancel, once', () => expect(run(press, move(50, 50), { kind: 'cancel' }, { kind: 'cancel' }, { kind: 'release' })).toEqual(['none', 'try', 'giveUp', 'none', 'none']))
  it('goes on near its start once it has begun', () => expect(run(press, move(50, 50), move(10, 10), { kind: 'release' })).toEqual(['none', 'try', 'try', 'set']))
})
