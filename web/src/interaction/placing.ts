export type Box = { left: number; top: number; width: number; height: number }
export type Point = [number, number]

/** The largest box of a shape inside an area, centred, with a margin (share of the area's sides) left free around it. */
export function placed(areaWidth: number, areaHeight: number, aspect: number, margin: number): Box {
  const room = { width: areaWidth * (1 - 2 * margin), height: areaHeight * (1 - 2 * margin) }
  const width = Math.max(1, Math.min(room.width, room.height * aspect))
  const height = width / aspect
  return { left: (areaWidth - width) / 2, top: (areaHeight - height) / 2, width, height }
}

/** Fractions of the box to pixels of the area. */
export const toView = (box: Box, [x, y]: Point): Point => [box.left + x * box.width, box.top + y * box.height]

/** Pixels of the area to fractions of the box. */
export const toDocument = (box: Box, [x, y]: Point): Point => [(x - box.left) / box.width, (y - box.top) / box.height]

/** The box of a picture of a shape placed so that it and everything given (in its fractions) fit the area with a margin in pixels. */
export function placedAround(areaWidth: number, areaHeight: number, aspect: number, points: Point[], margin: number): Box {
  const xs = [0, 1, ...points.map((p) => p[0])]
  const ys = [0, 1, ...points.map((p) => p[1])]
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  const width = Math.max(1, Math.min((areaWidth - 2 * margin) / (right - left), ((areaHeight - 2 * margin) / (bottom - top)) * aspect))
  const height = width / aspect
  return { left: areaWidth / 2 - ((left + right) / 2) * width, top: areaHeight / 2 - ((top + bottom) / 2) * height, width, height }
}

/** Area of a polygon, by its corners in turn. */
export function polygonArea(points: Point[]): number {
  let twice = 0
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length] as Point
    twice += p[0] * q[1] - q[0] * p[1]
  })
  return Math.abs(twice) / 2
}
