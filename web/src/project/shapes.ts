/** Shapes of a frame: id, name, and its sides to each other. */
export const SHAPES: [string, string, number, number][] = [
  ['16:9', 'Wide 16:9', 16, 9],
  ['9:16', 'Tall 9:16', 9, 16],
  ['1:1', 'Square 1:1', 1, 1],
  ['4:5', 'Portrait 4:5', 4, 5],
  ['4:3', 'Classic 4:3', 4, 3],
  ['3:2', 'Photo 3:2', 3, 2],
]

export const even = (v: number) => Math.max(64, Math.min(4096, 2 * Math.round(v / 2)))

/** Pixels of a shape whose shorter side has so many. */
export function pixels(across: number, down: number, shorter: number) {
  return across >= down ? { width: even((shorter * across) / down), height: even(shorter) } : { width: even(shorter), height: even((shorter * down) / across) }
}

export function shapeName(width: number, height: number): string {
  const found = SHAPES.find(([, , a, b]) => Math.abs(width / height - a / b) < 0.01)
  return found ? found[0] : `${width} × ${height}`
}
