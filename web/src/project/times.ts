export const TICKS = 705_600_000

export const toSeconds = (ticks: number) => ticks / TICKS
export const toTicks = (seconds: number) => Math.round(seconds * TICKS)

/** `1:04.2`: minutes, seconds, tenths. */
export function clockText(ticks: number, digits = 1): string {
  const factor = 10 ** digits
  const total = Math.floor(toSeconds(ticks) * factor + 1e-6) / factor
  const minutes = Math.floor(total / 60)
  return `${minutes}:${(total - minutes * 60).toFixed(digits).padStart(digits ? 3 + digits : 2, '0')}`
}

/** `1:04.12`: minutes, seconds, frame within the second. */
export function frameText(ticks: number, frameTicks: number): string {
  const frame = Math.floor(ticks / frameTicks + 1e-6)
  const perSecond = Math.max(1, Math.round(TICKS / frameTicks))
  const seconds = Math.floor(frame / perSecond)
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}.${String(frame % perSecond).padStart(2, '0')}`
}

export function bytesText(bytes: number): string {
  return bytes >= 1e9 ? `${(bytes / 1e9).toFixed(1)} GB` : bytes >= 1e6 ? `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB` : `${Math.max(1, Math.round(bytes / 1e3))} kB`
}

export function spanText(seconds: number): string {
  if (seconds < 60) return `${Math.max(1, Math.round(seconds))} s`
  return `${Math.floor(seconds / 60)} min ${String(Math.round(seconds % 60)).padStart(2, '0')} s`
}
