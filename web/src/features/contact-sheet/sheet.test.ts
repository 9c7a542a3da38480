import { expect, test } from 'vitest'
import { gapAt, gridOf } from './sheet'

test('the gap between pictures is the one nearest to the pointer', () => {
  const grid = gridOf(1116, false)
  expect(grid.columns).toBe(6)
  expect(gapAt(grid, 1116, 20, 0, 0)).toBe(0)
  expect(gapAt(grid, 1116, 20, 186 * 2 + 20, 10)).toBe(2)
  expect(gapAt(grid, 1116, 20, 186 * 2 + 120, grid.rowHeight + 10)).toBe(9)
  expect(gapAt(grid, 1116, 20, 1110, 5000)).toBe(20)
})

test('in a list the gap lies between lines', () => {
  const grid = gridOf(900, true)
  expect(gapAt(grid, 900, 5, 400, 60)).toBe(1)
  expect(gapAt(grid, 900, 5, 400, 90)).toBe(2)
})
