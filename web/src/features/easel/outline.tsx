import type { EditOf } from '@/api/client'
import type { KeyboardEvent, MouseEvent, PointerEvent } from 'react'
import { type Held, useDrag } from '@/interaction/drag'
import type { Corner } from '@/playback/socket'
import { type Box, toDocument, toView } from '@/interaction/placing'

/** The part of an outline that is dragged. */
export type Handle = EditOf<'drag_layer'>['handle']
export type Gesture = { handle: Handle; start: Corner; end: Corner; constrain: boolean; free: boolean; copy: boolean }

type Props = {
  name: string
  corners: Corner[]
  box: Box
  /** Where the area's corner is in the window, for turning pointer positions into fractions. */
  origin: () => { left: number; top: number }
  look: 'layer' | 'picture' | 'opening' | 'closing'
  /** Only an area to press: no line, no handles. */
  bare?: boolean
  /** Handles in the middle of the sides, which widen a window. */
  edges?: boolean
  /** A bare area under an outline with handles: it goes on with a drag begun before there were any, and is nothing of its own. */
  under?: boolean
  onPress?: (event: PointerEvent) => void
  onTap?: (event: PointerEvent) => void
  onEnter?: (event: MouseEvent) => void
  onTry: (gesture: Gesture) => void
  onSet: (gesture: Gesture) => void
  onGiveUp: () => void
}

const CORNERS = ['top left', 'top right', 'bottom right', 'bottom left']
const SIDES = ['top', 'right', 'bottom', 'left']
const TURN_REACH_PX = 30
const NUDGE = 0.005

/** An outline that is moved by its inside, sized by its corners and turned by the handle over its upper edge; keys do the same. */
export function Outline({ name, corners, box, origin, look, bare, under, edges, onPress, onTap, onEnter, onTry, onSet, onGiveUp }: Props) {
  const fraction = (at: [number, number]): Corner => {
    const o = origin()
    return toDocument(box, [at[0] - o.left, at[1] - o.top])
  }
  const gesture = (handle: Handle, start: [number, number], now: [number, number], held: Held): Gesture => ({
    handle,
    start: fraction(start),
    end: fraction(now),
    constrain: held.constrain,
    free: held.free,
    copy: held.copy,
  })
  const bind = useDrag<Handle>({
    onPress: (_, event) => onPress?.(event),
    onTap: (_, event) => onTap?.(event),
    onTry: (handle, start, now, held) => onTry(gesture(handle, start, now, held)),
    onSet: (handle, start, now, held) => onSet(gesture(handle, start, now, held)),
    onGiveUp,
  })
  const points = corners.map((c) => toView(box, c))
  if (points.length !== 4 || points.some((p) => !Number.isFinite(p[0] + p[1]))) return null
  const [a, b, c, d] = points as [Corner, Corner, Corner, Corner]
  const centre: Corner = [(a[0] + b[0] + c[0] + d[0]) / 4, (a[1] + b[1] + c[1] + d[1]) / 4]
  const middle: Corner = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]
  const away = [middle[0] - centre[0], middle[1] - centre[1]] as const
  const length = Math.hypot(away[0], away[1]) || 1
  // Near the upper rim of the area the turn handle goes inside, where it can be reached.
  const outside = middle[1] + (away[1] / length) * TURN_REACH_PX > 8
  const reach = outside ? TURN_REACH_PX : -TURN_REACH_PX
  const turn: Corner = [middle[0] + (away[0] / length) * reach, middle[1] + (away[1] / length) * reach]

  const nudge = (handle: Handle, at: Corner) => (event: KeyboardEvent) => {
    const step = NUDGE * (event.shiftKey ? 10 : 1)
    const ways: Record<string, Corner> = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }
    const way = ways[event.key]
    if (!way) return
    event.preventDefault()
    event.stopPropagation()
    const start = toDocument(box, at)
    onSet({ handle, start, end: [start[0] + way[0], start[1] + way[1]], constrain: false, free: true, copy: false })
  }
  const colour = look === 'closing' ? '#77b9cf' : '#e2a94a'
  const dash = look === 'closing' ? '7 5' : look === 'picture' ? '3 3' : undefined
  const polygon = points.map((p) => p.join(',')).join(' ')
  return (
    <g>
      <polygon
        points={polygon}
        fill="transparent"
        className={`pointer-events-auto cursor-move ${bare ? 'hover:stroke-glow hover:[stroke-width:1.5]' : ''}`}
        {...(under ? { 'aria-hidden': true } : { role: 'button', tabIndex: 0, 'aria-label': `Move ${name}` })}
        onKeyDown={nudge('inside', centre)}
        onDoubleClick={onEnter}
        {...bind('inside')}
      />
      {!bare && (
        <>
          <polygon points={polygon} fill="none" stroke="#00000066" strokeWidth={3} pointerEvents="none" />
          <polygon points={polygon} fill="none" stroke={colour} strokeWidth={1.5} strokeDasharray={dash} pointerEvents="none" />
          <line x1={middle[0]} y1={middle[1]} x2={turn[0]} y2={turn[1]} stroke={colour} strokeWidth={1.2} pointerEvents="none" />
          <circle
            cx={turn[0]}
            cy={turn[1]}
            r={5.5}
            fill="#2b2620"
            stroke={colour}
            strokeWidth={2}
            className="pointer-events-auto cursor-grab"
            role="button"
            tabIndex={0}
            aria-label={`Turn ${name}`}
            onKeyDown={nudge('turn', turn)}
            {...bind('turn')}
          />
          {points.map((p, i) => (
            <circle
              key={CORNERS[i]}
              cx={p[0]}
              cy={p[1]}
              r={5}
              fill={look === 'closing' ? '#2c2c2c' : '#fff'}
              stroke={look === 'closing' ? colour : '#2b2620'}
              strokeWidth={look === 'closing' ? 2 : 1}
              className="pointer-events-auto cursor-nwse-resize"
              role="button"
              tabIndex={0}
              aria-label={`Size ${name}, ${CORNERS[i]}`}
              onKeyDown={nudge(`corner${i}` as Handle, p)}
              {...bind(`corner${i}` as Handle)}
            />
          ))}
          {edges &&
            (
              [
                [a, b],
                [b, c],
                [c, d],
                [d, a],
              ] as const
            ).map(([p, q], i) => {
              const at: Corner = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]
              const angle = (Math.atan2(q[1] - p[1], q[0] - p[0]) * 180) / Math.PI
              return (
                <rect
                  key={SIDES[i]}
                  x={at[0] - 8}
                  y={at[1] - 3}
                  width={16}
                  height={6}
                  rx={3}
                  transform={`rotate(${angle} ${at[0]} ${at[1]})`}
                  fill="#fff"
                  stroke="#2b2620"
                  className="pointer-events-auto cursor-ew-resize"
                  role="button"
                  tabIndex={0}
                  aria-label={`Widen ${name}, ${SIDES[i]}`}
                  onKeyDown={nudge(`edge${i}` as Handle, at)}
                  {...bind(`edge${i}` as Handle)}
                />
              )
            })}
          {(look === 'opening' || look === 'closing') &&
            (look === 'opening' ? (
              <circle cx={a[0] + 15} cy={a[1] + 15} r={5} fill={colour} pointerEvents="none" />
            ) : (
              <circle cx={c[0] - 15} cy={c[1] - 15} r={4.5} fill="none" stroke={colour} strokeWidth={2} pointerEvents="none" />
            ))}
        </>
      )}
    </g>
  )
}
