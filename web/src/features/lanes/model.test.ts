import { expect, test } from 'vitest'
import type { KeyMark, LaneRow, Lanes } from '@/playback/socket'
import { beatsWithin, curveAt, curveRange, handlesOf, handleTo, OPEN_ROW, ROW, snapped, tracksOf } from './model'

const key = (id: string, at: number, value: number, fields: Partial<KeyMark> = {}): KeyMark => ({
  id,
  at,
  anchor: 'start',
  value,
  ease: 'both',
  ease_out: [0.4, 0],
  ease_in: [0.3, 0.1],
  hold: false,
  follow: null,
  ...fields,
})
const lane = (property: string, layer: string | null, keys: KeyMark[], curve: LaneRow['curve'] = null): LaneRow => ({
  container: 's',
  layer,
  property,
  owner: layer ?? '',
  label: property,
  kind: 'number',
  unit: '',
  scale: 1,
  base: 0,
  low: -10,
  high: 10,
  step: 0.01,
  keys,
  even: false,
  turn_along: false,
  curve,
})
const lanes = (rows: LaneRow[]): Lanes => ({
  length: 1000,
  hold_from: 100,
  hold_to: 900,
  rows,
  bars: [{ container: 's', layer: 'b', slot: 'entrance', owner: 'b', label: 'Falls', first: 0, last: 300 }],
})

test('rows follow each other by owner, bars before lanes, opened lanes taller', () => {
  const tracks = tracksOf(lanes([lane('camera.x', null, []), lane('placement.turn', 'a', []), lane('placement.path', 'b', []), lane('layer.opacity', 'a', [])]), ['s/a/layer.opacity'])
  expect(tracks.map((t) => [t.id, t.top, t.height, t.first])).toEqual([
    ['s//camera.x', 0, ROW, true],
    ['s/a/placement.turn', ROW, ROW, true],
    ['s/a/layer.opacity', 2 * ROW, OPEN_ROW, false],
    ['s/b/bars', 2 * ROW + OPEN_ROW, ROW, true],
    ['s/b/placement.path', 3 * ROW + OPEN_ROW, ROW, false],
  ])
})

test('a dragged key comes to what is near, else to a whole frame; freely only to frames', () => {
  expect(snapped(503, 10, [500, 507], 1, false)).toBe(500)
  expect(snapped(505.5, 10, [500, 507], 1, false)).toBe(507)
  expect(snapped(474, 10, [500], 1, false)).toBe(470)
  expect(snapped(503, 10, [501], 1, true)).toBe(500)
})

test('handles end where their shares of time and value say, and come back from there', () => {
  const row = lane('placement.turn', 'a', [key('k1', 100, 10), key('k2', 300, 30), key('k3', 500, 20, { hold: true }), key('k4', 600, 0)], { values: [10, 10, 30, 20, 0], speeds: [0, 0, 0, 0, 0] })
  const [out, into] = handlesOf(row, 1, 1000)
  expect(out).toMatchObject({ side: 'out', at: 300 + 0.4 * 200, value: 30 })
  expect(into).toMatchObject({ side: 'in', at: 300 - 0.3 * 200, value: 30 - 0.1 * 20 })
  for (const end of [out, into]) if (end) expect(handleTo(row, end, end.at, end.value, 1000).map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual(end.side === 'out' ? [0.4, 0] : [0.3, 0.1])
  // Never beyond the interval, whichever way it is pulled; none after a hold.
  if (out) expect(handleTo(row, out, 50, 900, 1000)[0]).toBe(0)
  if (out) expect(handleTo(row, out, 5000, -900, 1000)).toEqual([1, 10])
  expect(handlesOf(row, 2, 1000).map((h) => h.side)).toEqual(['in'])
  expect(handlesOf(row, 3, 1000)).toEqual([])
})

test('a curve is read between its points, and a level one has room around it', () => {
  const row = lane('layer.opacity', 'a', [key('k1', 0, 1)], { values: [0, 1, 3], speeds: [0, 0, 0] })
  expect([curveAt(row, 250, 1000), curveAt(row, 750, 1000), curveAt(row, 2000, 1000)]).toEqual([0.5, 2, 3])
  const level = curveRange(lane('layer.opacity', 'a', [], { values: [1, 1], speeds: [0, 0] }))
  expect(level[0]).toBeLessThan(1)
  expect(level[1]).toBeGreaterThan(1)
})

test('beats are those heard while the scene is on screen, in its own time', () => {
  const heard = { songs: [], beats: [90, 100, 140, 200, 210], bars: [140] }
  expect(beatsWithin(heard, { start: 100, speed: 2 }, 200)).toEqual([
    { at: 0, bar: false },
    { at: 80, bar: true },
    { at: 200, bar: false },
  ])
})
