import { TICKS } from './times'

/** Time drawn along a line: how many ticks a pixel stands for, which moment (ticks) lies at its start, and room (pixels) before that. */
export type TimeScale = { from: number; perPx: number; inset: number }

/** A stretch of time over a width in pixels, with room at both ends. */
export const fitted = (from: number, to: number, width: number, inset = 0): TimeScale => ({ from, perPx: Math.max(1, to - from) / Math.max(1, width - 2 * inset), inset })

/** The film from its start, so many pixels a second. */
export const bySecond = (pixels: number): TimeScale => ({ from: 0, perPx: TICKS / pixels, inset: 0 })

/** Where a moment lies, in pixels from the line's start. */
export const pxAt = (scale: TimeScale, ticks: number): number => scale.inset + (ticks - scale.from) / scale.perPx

/** The moment at a place: the inverse. */
export const ticksAt = (scale: TimeScale, px: number): number => scale.from + (px - scale.inset) * scale.perPx

/** How long a time is drawn, in pixels. */
export const pxOf = (scale: TimeScale, ticks: number): number => ticks / scale.perPx

/** How long a stretch of pixels lasts: the inverse. */
export const ticksOf = (scale: TimeScale, px: number): number => px * scale.perPx

const STEPS_S = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 30, 60, 120, 300, 600]

/** Seconds between the marks of a ruler, so that they stand at least so many pixels apart. */
export const ruleOf = (scale: TimeScale, leastPx: number): number => STEPS_S.find((s) => pxOf(scale, s * TICKS) >= leastPx) ?? 600
