import { expect, test, vi } from 'vitest'

vi.mock('@/project/store', () => ({ edit: vi.fn(), useProject: vi.fn() }))

const { reshaped } = await import('./shape-stage')

const start = { x: 0.2, y: 0.2, width: 0.5, height: 0.4 }
const close = (a: object, b: object) => {
  for (const [key, value] of Object.entries(b)) expect((a as Record<string, number>)[key]).toBeCloseTo(value, 9)
}

test('the inside moves a crop and keeps it in the picture', () => {
  close(reshaped(start, 'inside', [0, 0], [0.1, 0.05], null, 1.5, 0), { x: 0.3, y: 0.25, width: 0.5, height: 0.4 })
  close(reshaped(start, 'inside', [0, 0], [5, -5], null, 1.5, 0), { x: 0.5, y: 0, width: 0.5, height: 0.4 })
})

test('a corner follows the pointer and the opposite one stays', () => {
  close(reshaped(start, 'corner2', [0.7, 0.6], [0.6, 0.5], null, 1.5, 0), { x: 0.2, y: 0.2, width: 0.4, height: 0.3 })
  close(reshaped(start, 'corner0', [0.2, 0.2], [0.3, 0.25], null, 1.5, 0), { x: 0.3, y: 0.25, width: 0.4, height: 0.35 })
})

test('a crop of a given shape keeps it', () => {
  for (const shape of [1, 16 / 9, 0.8]) {
    const made = reshaped(start, 'corner2', [0.7, 0.6], [0.66, 0.5], shape, 1.5, 0)
    expect((made.width * 1.5) / made.height).toBeCloseTo(shape, 9)
    close(made, { x: 0.2, y: 0.2 })
  }
})

test('on a straightened picture a corner moves along the turned axes', () => {
  const turned = reshaped(start, 'corner2', [0, 0], [0.02, 0.03], null, 1, 90)
  // Turned by a quarter, what goes down widens the rectangle, and what goes right makes it lower.
  close(turned, { width: 0.53, height: 0.38 })
})

test('a crop never vanishes', () => {
  const tiny = reshaped(start, 'corner2', [0.7, 0.6], [-3, -3], null, 1.5, 0)
  expect(tiny.width).toBeGreaterThan(0.01)
  expect(tiny.height).toBeGreaterThan(0.01)
})
