import { expect, test, vi } from 'vitest'

vi.mock('@/project/store', () => ({ useProject: vi.fn(), pictureMark: () => '' }))

const { fits } = await import('./picker')

test('every word must stand somewhere, in any case and any of the texts', () => {
  expect(fits('', 'Moonrise')).toBe(true)
  expect(fits('dome MOON', 'Moonrise behind the dome')).toBe(true)
  expect(fits('lamp dusk', 'Storm lantern', 'Lamp-lighting at dusk', null)).toBe(true)
  expect(fits('lamp dawn', 'Storm lantern', 'Lamp-lighting at dusk', undefined)).toBe(false)
})
