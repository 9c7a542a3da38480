import { describe, expect, it } from 'vitest'
import { sum } from './sums'

describe('what a person types into a number field', () => {
  it.each([
    ['1920/3', '', 640],
    ['2*(3+1)-.5', '', 7.5],
    ['3.0%', '%', 3],
    ['-6,5°', '°', -6.5],
    ['1.25 ×', '×', 1.25],
    ['- -4', '', 4],
  ])('%s is read', (text, unit, value) => expect(sum(text, unit)).toBe(value))

  it.each(['', 'abc', '1/0', '2+', '(1', '1 2 x', '--'])('%s is not taken for a number', (text) => expect(sum(text)).toBeNull())
})
