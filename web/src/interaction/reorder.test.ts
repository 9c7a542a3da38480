import { expect, test } from 'vitest'
import { gapBetween } from './reorder'

const rows = [
  { id: 'a', top: 0, bottom: 20 },
  { id: 'b', top: 20, bottom: 40 },
  { id: 'c', top: 40, bottom: 60 },
]

test('a gap is that nearest to the pointer, the ends included', () => {
  expect(gapBetween(rows, -30)).toEqual({ before: 'a', y: 0 })
  expect(gapBetween(rows, 9)).toEqual({ before: 'a', y: 0 })
  expect(gapBetween(rows, 11)).toEqual({ before: 'b', y: 20 })
  expect(gapBetween(rows, 51)).toEqual({ before: null, y: 60 })
  expect(gapBetween([], 5)).toEqual({ before: null, y: 0 })
})
