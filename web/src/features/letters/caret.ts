import type { Geometry } from '@/playback/socket'

/** Where the letters of the text that is written are, as the core set them. Places are characters (code points) of the written text. */
export type Written = NonNullable<Geometry['written']>
type Cell = Written['cells'][number]
type Point = [number, number]
type Matrix = Written['matrix']

/** A point of the text's plane (ems) in fractions of the frame. */
export function seen(m: Matrix, [x, y]: Point): Point {
  const w = m[6] * x + m[7] * y + m[8]
  return [(m[0] * x + m[1] * y + m[2]) / w, (m[3] * x + m[4] * y + m[5]) / w]
}

/** The matrix back: fractions of the frame to the text's plane. */
export function back(m: Matrix): Matrix {
  const [a, b, c, d, e, f, g, h, i] = m
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g)
  return [e * i - f * h, c * h - b * i, b * f - c * e, f * g - d * i, a * i - c * g, c * d - a * f, d * h - e * g, b * g - a * h, a * e - b * d].map((v) => v / det) as Matrix
}

/** Code points before a place in UTF-16, and the other way round. */
export const pointsBefore = (text: string, unit: number): number => [...text.slice(0, unit)].length
export const unitsBefore = (text: string, point: number): number => [...text].slice(0, point).join('').length

const cellsOf = (w: Written, line: number): Cell[] => w.cells.filter((c) => c[2] === line)

/** The line that a place lies in: where one ends and the next begins, the next. */
export function lineOf(w: Written, at: number): number {
  for (let i = w.rows.length - 1; i >= 0; i -= 1) if ((w.rows[i]?.[0] ?? 0) <= at) return i
  return 0
}

/** How far along its line a caret before the character `at` stands (ems). */
export function along(w: Written, at: number, line = lineOf(w, at)): number {
  const cells = cellsOf(w, line)
  const inside = cells.find((c) => c[0] <= at && at < c[1])
  if (inside) {
    const [start, stop, , x0, x1, level] = inside
    const share = (at - start) / Math.max(stop - start, 1)
    return level % 2 ? x1 - (x1 - x0) * share : x0 + (x1 - x0) * share
  }
  const before = cells.filter((c) => c[1] <= at).sort((a, b) => b[1] - a[1])[0]
  if (before) return before[5] % 2 ? before[3] : before[4]
  const row = w.rows[line]
  return row ? row[5] : 0
}

/** The two ends of a stroke across a line at a place along it. */
function across(w: Written, line: number, x: number): [Point, Point] {
  const row = w.rows[line] ?? ([0, 0, 0, 0.8, 0.2, 0, 0] as Written['rows'][number])
  const [, , base, ascent, descent] = row
  return w.column
    ? [
        [base - ascent, x],
        [base + descent, x],
      ]
    : [
        [x, base - ascent],
        [x, base + descent],
      ]
}

/** The caret's ends in fractions of the frame. */
export function caretOf(w: Written, at: number): [Point, Point] {
  const line = lineOf(w, at)
  const [a, b] = across(w, line, along(w, at, line))
  return [seen(w.matrix, a), seen(w.matrix, b)]
}

/** Quadrilaterals over the chosen characters, in fractions of the frame: one for each cluster, so that text of both directions is right. */
export function chosenOf(w: Written, from: number, to: number): Point[][] {
  return w.cells
    .filter((c) => c[0] < to && c[1] > from)
    .map(([start, stop, line, x0, x1, level]) => {
      const share = (at: number) => Math.min(Math.max((at - start) / Math.max(stop - start, 1), 0), 1)
      const [a, b] = [share(from), share(to)]
      const [left, right] = level % 2 ? [x1 - (x1 - x0) * b, x1 - (x1 - x0) * a] : [x0 + (x1 - x0) * a, x0 + (x1 - x0) * b]
      const [p, q] = across(w, line, left)
      const [s, r] = across(w, line, right)
      return [p, s, r, q].map((point) => seen(w.matrix, point))
    })
}

/** Places between letters on a line. */
function places(w: Written, line: number): number[] {
  const row = w.rows[line]
  const found = new Set<number>(row ? [row[0]] : [])
  for (const [start, stop, , , , , letters] of cellsOf(w, line)) {
    found.add(start)
    if (letters > 1) for (let k = 1; k < letters; k += 1) found.add(start + Math.round(((stop - start) * k) / letters))
    found.add(stop)
  }
  // Behind the space that ends a wrapped line the next line begins.
  const next = w.rows[line + 1]
  if (next) found.delete(next[0])
  return [...found].sort((a, b) => a - b)
}

/** The place nearest to a point of the text's plane (ems). */
export function placeAt(w: Written, [x, y]: Point): number {
  const [run, stand] = w.column ? [y, x] : [x, y]
  let line = 0
  let best = Number.POSITIVE_INFINITY
  w.rows.forEach((row, i) => {
    const middle = row[2] + (row[4] - row[3]) / 2
    const away = Math.abs(middle - stand)
    if (away < best) [line, best] = [i, away]
  })
  return nearest(w, line, run)
}

function nearest(w: Written, line: number, run: number): number {
  const all = places(w, line)
  return all.reduce((found, at) => (Math.abs(along(w, at, line) - run) < Math.abs(along(w, found, line) - run) ? at : found), all[0] ?? 0)
}

/** The place a line above (-1) or below (1), as far along as `run`; at the first and last line the text's own ends. */
export function placeBeside(w: Written, at: number, way: -1 | 1, run = along(w, at)): number {
  const line = lineOf(w, at) + way
  if (line < 0) return 0
  if (line >= w.rows.length) return Math.max(...w.rows.map((r) => r[1]), 0)
  return nearest(w, line, run)
}

/** Where the line of a place begins or ends. */
export function lineEnd(w: Written, at: number, end: boolean): number {
  const all = places(w, lineOf(w, at))
  return (end ? all.at(-1) : all[0]) ?? at
}
