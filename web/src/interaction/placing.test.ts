import { describe, expect, it } from 'vitest'
import { type Point, placed, placedAround, polygonArea, toDocument, toView } from './placing'

describe('placing on the easel', () => {
  it('turns fractions into pixels and back', () => {
    const box = placed(700, 400, 16 / 9, 0.07)
    for (const point of [
      [0, 0],
      [1, 1],
      [-0.3, 1.7],
      [0.25, 0.5],
    ] as Point[]) {
      const there = toDocument(box, toView(box, point))
      expect(there[0]).toBeCloseTo(point[0], 12)
      expect(there[1]).toBeCloseTo(point[1], 12)
    }
  })
  it('keeps the shape, whatever the area', () => {
    for (const [w, h] of [
      [700, 400],
      [300, 900],
      [50, 50],
    ] as Point[]) {
      const box = placed(w, h, 4 / 5, 0.07)
      expect(box.width / box.height).toBeCloseTo(0.8)
      expect(box.left).toBeGreaterThan(0)
      expect(box.top).toBeGreaterThan(0)
    }
  })
  it('makes room for views that reach beyond the picture', () => {
    const beyond: Point[] = [
      [-0.5, 0.2],
      [1.2, 0.2],
      [1.2, 1.4],
      [-0.5, 1.4],
    ]
    const box = placedAround(600, 400, 1.5, beyond, 20)
    for (const [x, y] of beyond.map((p) => toView(box, p))) {
      expect(x).toBeGreaterThan(19.9)
      expect(x).toBeLessThan(580.1)
      expect(y).toBeGreaterThan(19.9)
      expect(y).toBeLessThan(380.1)
    }
    expect(polygonArea(beyond)).toBeCloseTo(1.7 * 1.2)
  })
})
