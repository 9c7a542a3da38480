export type Values = Record<string, unknown>

/** The common value of one thing about several records; null if they differ. */
export function common<T>(values: T[]): T | null {
  const first = values[0]
  return values.length && values.every((v) => JSON.stringify(v) === JSON.stringify(first)) ? (first as T) : null
}

/** Records of the same shape as one record of common values. */
export function commonFields(records: Values[]): Values {
  return Object.fromEntries(Object.keys(records[0] ?? {}).map((k) => [k, common(records.map((r) => r[k]))]))
}
