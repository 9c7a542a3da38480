import { describe, expect, it } from 'vitest'
import { bySecond, fitted, pxAt, pxOf, ruleOf, ticksAt, ticksOf } from './time-scale'
import { TICKS } from './times'

describe('time along a line', () => {
  const scales = [fitted(0, 1000, 400, 12), fitted(250, 400, 977, 12), fitted(-5 * TICKS, 90 * TICKS, 731), bySecond(26), bySecond(0.5), fitted(7, 7, 300)]

  it('is found again from where it lies, and its length from how long it is drawn', () => {
    for (const scale of scales)
      for (const at of [scale.from, 300, 3 * TICKS, -40]) {
        expect(ticksAt(scale, pxAt(scale, at))).toBeCloseTo(at, 3)
        expect(ticksOf(scale, pxOf(scale, at))).toBeCloseTo(at, 3)
        expect(pxAt(scale, at) - pxAt(scale, 0)).toBeCloseTo(pxOf(scale, at), 6)
      }
  })

  it('begins and ends within the room that is left for it', () => {
    expect([pxAt(fitted(250, 400, 977, 12), 250), pxAt(fitted(250, 400, 977, 12), 400)]).toEqual([12, 965])
    expect(pxAt(bySecond(26), 2 * TICKS)).toBeCloseTo(52, 9)
  })

  it('is ruled so that the marks can be read', () => {
    for (const scale of scales.slice(2, 5)) expect(pxOf(scale, ruleOf(scale, 46) * TICKS)).toBeGreaterThanOrEqual(46)
    expect(ruleOf(bySecond(100), 46)).toBe(0.5)
  })
})
