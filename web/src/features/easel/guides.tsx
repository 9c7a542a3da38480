import { useDrag } from '@/interaction/drag'
import type { Geometry } from '@/playback/socket'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import type { Box } from '@/interaction/placing'

type Props = { box: Box; origin: () => { left: number; top: number }; lines: Geometry['lines']; safe: number }

/** Lines over the frame: thirds, title-safe area, the project's own guides, and what a dragged layer touches. */
export function Guides({ box, origin, lines, safe }: Props) {
  const thirds = useSession((s) => s.thirds)
  const showSafe = useSession((s) => s.safe)
  const guides = useProject((s) => s.document.guides)
  const x = (at: number) => box.left + at * box.width
  const y = (at: number) => box.top + at * box.height
  const place = (axis: string, at: [number, number]) => {
    const o = origin()
    return Math.min(1, Math.max(0, axis === 'x' ? (at[0] - o.left - box.left) / box.width : (at[1] - o.top - box.top) / box.height))
  }
  const set = (index: number, at: number | null) => {
    const next = (guides ?? []).map((g, i) => (i === index ? { ...g, at: at ?? g.at } : g))
    void edit({ edit: 'set_guides', guides: at === null ? next.filter((_, i) => i !== index) : next })
  }
  const bind = useDrag<number>({
    onTry: () => undefined,
    onSet: (index, _, now) => {
      const guide = guides?.[index]
      if (guide) set(index, place(guide.axis, now))
    },
    onGiveUp: () => undefined,
  })
  const line = (axis: string, at: number, props: Record<string, unknown>) =>
    axis === 'x' ? <line x1={x(at)} x2={x(at)} y1={y(0)} y2={y(1)} {...props} /> : <line x1={x(0)} x2={x(1)} y1={y(at)} y2={y(at)} {...props} />
  return (
    <svg aria-label="Guides" className="pointer-events-none absolute inset-0 h-full w-full">
      {thirds && [1 / 3, 2 / 3].map((at) => ['x', 'y'].map((axis) => <g key={`${axis}${at}`}>{line(axis, at, { stroke: '#fff', strokeOpacity: 0.45, strokeWidth: 1 })}</g>))}
      {showSafe && <rect x={x((1 - safe) / 2)} y={y((1 - safe) / 2)} width={box.width * safe} height={box.height * safe} fill="none" stroke="#fff" strokeOpacity={0.6} strokeDasharray="2 4" />}
      {guides?.map((g, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: guides have no identity but their place in the list
        <g key={i}>
          {line(g.axis, g.at, { stroke: '#77b9cf', strokeWidth: 1 })}
          {line(g.axis, g.at, {
            stroke: 'transparent',
            strokeWidth: 9,
            className: `pointer-events-auto ${g.axis === 'x' ? 'cursor-col-resize' : 'cursor-row-resize'}`,
            role: 'button',
            tabIndex: 0,
            'aria-label': `${g.axis === 'x' ? 'Upright' : 'Level'} guide at ${Math.round(g.at * 100)} %; Delete removes it`,
            onKeyDown: (event: KeyboardEvent) => {
              if (event.key === 'Delete' || event.key === 'Backspace') set(i, null)
              else if (event.key === 'ArrowLeft' || event.key === 'ArrowUp') set(i, Math.max(0, g.at - 0.005))
              else if (event.key === 'ArrowRight' || event.key === 'ArrowDown') set(i, Math.min(1, g.at + 0.005))
              else return
              event.preventDefault()
              event.stopPropagation()
            },
            ...bind(i),
          })}
        </g>
      ))}
      {lines.map((l) => (
        <g key={`${l.axis}${l.at}`}>{line(l.axis, l.at, { stroke: '#e2a94a', strokeWidth: 1 })}</g>
      ))}
    </svg>
  )
}
