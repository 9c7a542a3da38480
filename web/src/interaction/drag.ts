import { type PointerEvent, useEffect, useRef } from 'react'

/** A drag as pure data: nothing, pressed (not yet moved far enough), dragging. */
export type DragState<T> = { phase: 'idle' } | ({ phase: 'pressed' | 'dragging'; what: T; start: [number, number]; now: [number, number] } & Held)

/** What is held down: Shift constrains, Ctrl frees from snapping; `copy`: Alt was down when the drag began. */
export type Held = { constrain: boolean; free: boolean; copy: boolean }

export type DragEvent<T> =
  | { kind: 'press'; what: T; at: [number, number]; copy?: boolean }
  | { kind: 'move'; at: [number, number]; constrain: boolean; free?: boolean }
  | { kind: 'release' }
  | { kind: 'cancel' }

export const THRESHOLD_PX = 3

/** The next state of a drag, and what it means: movement is always counted from where it started, never summed up. */
export function dragged<T>(state: DragState<T>, event: DragEvent<T>): { state: DragState<T>; effect: 'none' | 'try' | 'set' | 'giveUp' } {
  if (event.kind === 'press') return { state: { phase: 'pressed', what: event.what, start: event.at, now: event.at, constrain: false, free: false, copy: event.copy ?? false }, effect: 'none' }
  if (state.phase === 'idle') return { state, effect: 'none' }
  if (event.kind === 'move') {
    const far = Math.hypot(event.at[0] - state.start[0], event.at[1] - state.start[1]) >= THRESHOLD_PX
    if (state.phase === 'pressed' && !far) return { state, effect: 'none' }
    return { state: { ...state, phase: 'dragging', now: event.at, constrain: event.constrain, free: event.free ?? false }, effect: 'try' }
  }
  if (event.kind === 'release') return { state: { phase: 'idle' }, effect: state.phase === 'dragging' ? 'set' : 'none' }
  return { state: { phase: 'idle' }, effect: state.phase === 'dragging' ? 'giveUp' : 'none' }
}

type Handlers<T> = {
  onPress?: (what: T, event: PointerEvent) => void
  /** Let go where it was pressed. */
  onTap?: (what: T, event: PointerEvent) => void
  onTry: (what: T, start: [number, number], now: [number, number], held: Held) => void
  onSet: (what: T, start: [number, number], now: [number, number], held: Held) => void
  onGiveUp: () => void
}

/** Presses that something has taken. */
const taken = new WeakSet<Event>()

/** Binds the drag to pointer events; Escape, a lost pointer or a lost window give it up. Positions are client pixels. */
export function useDrag<T>(handlers: Handlers<T>) {
  const state = useRef<DragState<T>>({ phase: 'idle' })
  const latest = useRef(handlers)
  latest.current = handlers

  const feed = (event: DragEvent<T>) => {
    const before = state.current
    const next = dragged(before, event)
    state.current = next.state
    if (next.state.phase === 'idle') stop()
    if (next.effect === 'try' && next.state.phase !== 'idle') {
      const { what, start, now, ...held } = next.state
      latest.current.onTry(what, start, now, held)
    } else if (next.effect === 'set' && before.phase !== 'idle') latest.current.onSet(before.what, before.start, before.now, before)
    else if (next.effect === 'giveUp') latest.current.onGiveUp()
  }
  const latestFeed = useRef(feed)
  latestFeed.current = feed

  // Only while something is pressed: there may be a hundred fields that could be dragged.
  const listen = useRef<() => void>(() => undefined)
  const stop = () => {
    listen.current()
    listen.current = () => undefined
  }
  useEffect(() => () => listen.current(), [])
  const watch = () => {
    stop()
    const give = () => latestFeed.current({ kind: 'cancel' })
    const key = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || state.current.phase === 'idle') return
      give()
      event.stopImmediatePropagation()
      event.preventDefault()
    }
    window.addEventListener('blur', give)
    window.addEventListener('keydown', key, true)
    listen.current = () => {
      window.removeEventListener('blur', give)
      window.removeEventListener('keydown', key, true)
    }
  }

  return (what: T) => ({
    onPointerDown: (event: PointerEvent) => {
      // The innermost thing takes a press; it still goes on to what closes menus.
      if (event.button !== 0 || taken.has(event.nativeEvent)) return
      taken.add(event.nativeEvent)
      event.currentTarget.setPointerCapture(event.pointerId)
      watch()
      latest.current.onPress?.(what, event)
      feed({ kind: 'press', what, at: [event.clientX, event.clientY], copy: event.altKey })
    },
    onPointerMove: (event: PointerEvent) => feed({ kind: 'move', at: [event.clientX, event.clientY], constrain: event.shiftKey, free: event.ctrlKey || event.metaKey }),
    onPointerUp: (event: PointerEvent) => {
      const before = state.current
      feed({ kind: 'release' })
      // What was pressed, not what lies under the binding that hears of the release.
      if (before.phase === 'pressed') latest.current.onTap?.(before.what, event)
    },
    onPointerCancel: () => feed({ kind: 'cancel' }),
    onLostPointerCapture: () => feed({ kind: 'cancel' }),
  })
}

type Sliding = { onStart?: () => void; onSlide: (at: [number, number], moving: boolean) => void; onGiveUp?: () => void }

/** A place that follows the pointer from the press on, as on a ruler: `onSlide` hears where it is (client pixels) and whether it still moves. */
export function useSlide({ onStart, onSlide, onGiveUp }: Sliding) {
  const bind = useDrag<null>({
    onPress: (_, event) => {
      onStart?.()
      onSlide([event.clientX, event.clientY], true)
    },
    onTap: (_, event) => onSlide([event.clientX, event.clientY], false),
    onTry: (_, __, now) => onSlide(now, true),
    onSet: (_, __, now) => onSlide(now, false),
    onGiveUp: () => onGiveUp?.(),
  })
  return bind(null)
}
