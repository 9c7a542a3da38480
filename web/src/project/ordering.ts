/** Records in the order of their order keys, as the core sorts them. */
export function inOrder<T extends { order?: string }>(records: Record<string, T> | undefined): [string, T][] {
  return Object.entries(records ?? {}).sort(([a, x], [b, y]) => {
    const p = x.order ?? ''
    const q = y.order ?? ''
    return p < q ? -1 : p > q ? 1 : a < b ? -1 : 1
  })
}
