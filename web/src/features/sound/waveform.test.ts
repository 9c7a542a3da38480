import { describe, expect, it } from 'vitest'
import { waveOutline } from './waveform'

const numbers = (outline: string) =>
  outline
    .slice(1, -1)
    .split('L')
    .map((p) => p.split(',').map(Number) as [number, number])

describe('the outline of a waveform', () => {
  it('runs there along what is greatest and back along what is least', () => {
    const points = numbers(
      waveOutline(
        [
          [-127, 127],
          [-64, 0],
        ],
        100,
        40,
      ),
    )
    expect(points).toHaveLength(4)
    expect(points[0]).toEqual([25, 0])
    expect(points[3]).toEqual([25, 40])
    expect(points[1]?.[0]).toBe(75)
  })

  it('shows silence as a thin line, and nothing for nothing', () => {
    const points = numbers(waveOutline([[0, 0]], 10, 20))
    expect(points[0]?.[1]).toBeLessThan(10)
    expect(points[1]?.[1]).toBeGreaterThan(10)
    expect(waveOutline([], 10, 20)).toBe('')
  })

  it('stands upright where time runs down', () => {
    const across = numbers(waveOutline([[-127, 127]], 50, 30))
    const down = numbers(waveOutline([[-127, 127]], 50, 30, true))
    expect(down).toEqual(across.map(([x, y]) => [y, x]))
  })
})
