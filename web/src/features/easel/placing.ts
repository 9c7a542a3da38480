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
