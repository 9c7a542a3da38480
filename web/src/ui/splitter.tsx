import { type CSSProperties, type KeyboardEvent, useEffect, useRef, useState } from 'react'
import { useDrag } from '@/interaction/drag'
import { setSize, useArrangement } from './arrangement'

/** A part of the desk that can be resized. In CSS pixels: its usual size, and the least; `most`: the share of the window it may take. */
export type Sized = { name: string; label: string; usual: (window: number) => number; least: number; most: number; across: boolean }

const STEP_PX = 16

const within = (part: Sized, size: number, window: number) => Math.round(Math.max(part.least, Math.min(size, part.most * window)))

/** How large the window is along the way a part is resized, in CSS pixels. */
function useWindow(across: boolean): number {
  const [size, setWindow] = useState(() => (across ? window.innerWidth : window.innerHeight))
  useEffect(() => {
    const measure = () => setWindow(across ? window.innerWidth : window.innerHeight)
    window.addEventListener('resize', measure)
    return () => window.removeEventListener('resize', measure)
  }, [across])
  return size
}

/** The size of a part as it was left, in CSS pixels; never so large that the rest has no room. */
export function useSize(part: Sized): number {
  const own = useArrangement((s) => s.sizes[part.name])
  const room = useWindow(part.across)
  return within(part, own ?? part.usual(room), room)
}

/** The edge of a part, to be dragged or moved with the arrows (Shift: five steps); Home or a double click brings the usual size back.
 * `grows`: where the part lies from its edge. */
export function Splitter({ part, grows, className, at }: { part: Sized; grows: 'before' | 'after'; className: string; at?: CSSProperties }) {
  const size = useSize(part)
  const room = useWindow(part.across)
  const from = useRef(size)
  const way = grows === 'before' ? 1 : -1
  const moved = (start: [number, number], now: [number, number]) => setSize(part.name, within(part, from.current + way * (part.across ? now[0] - start[0] : now[1] - start[1]), room))
  const bind = useDrag<null>({
    onPress: () => {
      from.current = size
    },
    onTry: (_, start, now) => moved(start, now),
    onSet: (_, start, now) => moved(start, now),
    onGiveUp: () => setSize(part.name, from.current),
  })
  const onKeyDown = (event: KeyboardEvent) => {
    const [less, more] = part.across ? ['ArrowLeft', 'ArrowRight'] : ['ArrowUp', 'ArrowDown']
    const step = (event.shiftKey ? 5 : 1) * STEP_PX * way
    if (event.key === 'Home') setSize(part.name, null)
    else if (event.key === less) setSize(part.name, within(part, size - step, room))
    else if (event.key === more) setSize(part.name, within(part, size + step, room))
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  return (
    <div
      {...bind(null)}
      role="separator"
      aria-label={part.label}
      aria-orientation={part.across ? 'vertical' : 'horizontal'}
      aria-valuenow={size}
      aria-valuemin={part.least}
      aria-valuemax={Math.round(part.most * room)}
      title={`${part.label}: drag it; a double click brings back the usual size`}
      tabIndex={0}
      style={at}
      onDoubleClick={() => setSize(part.name, null)}
      onKeyDown={onKeyDown}
      className={`touch-none hover:bg-glow/60 focus-visible:bg-glow ${part.across ? 'cursor-col-resize' : 'cursor-row-resize'} ${className}`}
    />
  )
}
