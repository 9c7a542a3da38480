import { describe, expect, it } from 'vitest'
import { inOrder } from './ordering'
import { bytesText, clockText, frameText, spanText, TICKS } from './times'

describe('times and sizes as people read them', () => {
  it('writes minutes, seconds and frames', () => {
    expect(clockText(64.25 * TICKS)).toBe('1:04.2')
    expect(frameText(64.5 * TICKS, TICKS / 30)).toBe('1:04.15')
    expect(frameText(59.96 * TICKS, TICKS / 25)).toBe('0:59.24')
    expect([spanText(0.2), spanText(59), spanText(61)]).toEqual(['1 s', '59 s', '1 min 01 s'])
    expect([bytesText(900), bytesText(2_340_000), bytesText(34_000_000), bytesText(2e9)]).toEqual(['1 kB', '2.3 MB', '34 MB', '2.0 GB'])
  })
  it('sorts by order key, then by id, as the core does', () => {
    expect(inOrder({ b: { order: 'V' }, a: { order: 'V' }, c: { order: 'F' }, d: { order: 'a' } }).map(([k]) => k)).toEqual(['c', 'a', 'b', 'd'])
  })
})
