import { describe, expect, it } from 'vitest'
import { along, back, caretOf, chosenOf, lineEnd, placeAt, placeBeside, pointsBefore, seen, unitsBefore, type Written } from './caret'

/** Two lines, “ab c” and “שד”: letters an em wide, the second from right to left. */
const TEXT: Written = {
  container: 's',
  layer: 'l',
  matrix: [0.1, 0.02, 0.4, 0, 0.2, 0.5, 0.05, 0, 1],
  rows: [
    [0, 4, 0, 0.8, 0.2, 0, 4],
    [5, 7, 1.2, 0.8, 0.2, 1, 2],
  ],
  cells: [
    [0, 1, 0, 0, 1, 0, 1],
    [1, 2, 0, 1, 2, 0, 1],
    [2, 3, 0, 2, 3, 0, 1],
    [3, 4, 0, 3, 4, 0, 1],
    [6, 7, 1, 1, 2, 1, 1],
    [5, 6, 1, 2, 3, 1, 1],
  ],
  column: false,
  missing: '',
  stood_in: '',
  shrunk: 1,
}

describe('the caret', () => {
  it('goes through the plane and back', () => {
    for (const p of [
      [0, 0],
      [3.2, -0.7],
      [-2, 1.9],
    ] as [number, number][]) {
      const again = seen(back(TEXT.matrix), seen(TEXT.matrix, p))
      expect(again[0]).toBeCloseTo(p[0], 9)
      expect(again[1]).toBeCloseTo(p[1], 9)
    }
  })
  it('stands between letters, from right to left where they run so', () => {
    expect([0, 1, 4].map((at) => along(TEXT, at))).toEqual([0, 1, 4])
    expect([5, 6, 7].map((at) => along(TEXT, at))).toEqual([3, 2, 1])
    expect(caretOf(TEXT, 5)[0][0]).toBeCloseTo(seen(TEXT.matrix, [3, 0.4])[0], 9)
  })
  it('is put where one presses, and goes up, down and to the ends of lines', () => {
    expect(placeAt(TEXT, [1.1, -0.2])).toBe(1)
    expect(placeAt(TEXT, [9, 5])).toBe(5)
    expect(placeAt(TEXT, [0.9, 1])).toBe(7)
    expect(placeBeside(TEXT, 2, 1)).toBe(6)
    expect(placeBeside(TEXT, 6, -1)).toBe(2)
    expect(placeBeside(TEXT, 2, -1)).toBe(0)
    expect(placeBeside(TEXT, 6, 1)).toBe(7)
    expect([lineEnd(TEXT, 2, false), lineEnd(TEXT, 2, true), lineEnd(TEXT, 6, true)]).toEqual([0, 4, 7])
  })
  it('marks what is chosen', () => {
    expect(chosenOf(TEXT, 1, 3)).toHaveLength(2)
    expect(chosenOf(TEXT, 3, 6)).toHaveLength(2)
  })
  it('counts what a page counts otherwise', () => {
    expect(pointsBefore('a😀b', 3)).toBe(2)
    expect(unitsBefore('a😀b', 2)).toBe(3)
  })
})
