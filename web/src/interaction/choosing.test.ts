import { describe, expect, it } from 'vitest'
import { chosenAfter, neighbour } from './choosing'

const order = ['a', 'b', 'c', 'd', 'e']

describe('choosing in a list', () => {
  it('takes one, adds one, takes one away', () => {
    expect(chosenAfter(order, ['a', 'b'], 'd', { toggle: false, range: false })).toEqual(['d'])
    expect(chosenAfter(order, ['a'], 'd', { toggle: true, range: false })).toEqual(['a', 'd'])
    expect(chosenAfter(order, ['a', 'd'], 'd', { toggle: true, range: false })).toEqual(['a'])
  })
  it('reaches from the last one, in both directions, and the anchor stays', () => {
    expect(new Set(chosenAfter(order, ['d'], 'b', { toggle: false, range: true }))).toEqual(new Set(['b', 'c', 'd']))
    expect(chosenAfter(order, ['b'], 'd', { toggle: false, range: true }).at(-1)).toBe('b')
  })
  it('finds neighbours and stops at the ends', () => {
    expect([neighbour(order, 'a', -1), neighbour(order, 'e', 3), neighbour(order, 'gone', 1), neighbour([], 'a', 1)]).toEqual(['a', 'e', 'a', undefined])
  })
})
