import { calledOf } from '@/project/kinds'
import { type KeyboardEvent, useRef } from 'react'
import type { LayerRef, Edit } from '@/api/client'
import { useArea } from '@/interaction/area'
import { type Held, useDrag } from '@/interaction/drag'
import { useGeometry, useScreen } from '@/playback/screen'
import type { Corner, PlanView } from '@/playback/socket'
import { edit } from '@/project/connection'
import { useProject, useSceneAlone } from '@/project/project'
import { chooseLayers, tryEdits, useSession } from '@/project/session'

type What = { view: PlanView['view']; what: 'camera' | 'aim' | 'focus' | 'point' | 'lamp' | 'layer'; layer?: LayerRef }
type Fit = { left: number; top: number; scale: number }

const MARGIN = 26
const NUDGE = 0.02
/** So many names can be read side by side. */
const FEW = 4
const TITLES = { top: 'From above', side: 'From the side' }

/** The box, in frame heights, of what a drawing shows. The field is cut off where nothing stands. */
function bounds(view: PlanView): [number, number, number, number] {
  const points = [view.camera, view.aim, ...view.path, ...view.layers.flatMap((l) => l.corners), ...(view.lamp ? [view.lamp] : [])]
  const xs = points.map((p) => p[0])
  const ys = points.map((p) => p[1])
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]
}

/** Camera and photos in depth, from above and from the side; the frame beside them. */
export function Plan() {
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? null)
  const frame = useProject((s) => s.document.frame)
  const aspect = (frame?.width ?? 16) / (frame?.height ?? 9)
  const plan = useGeometry((s) => (s.scene === scene ? s.geometry.plan : undefined))
  const dragging = useSession((s) => s.tried !== null)
  const { ref, size } = useArea()
  const side = Math.min(size.width * 0.3, 300)
  const room = Math.max(1, size.width - side - 30)
  const tall = Math.max(1, size.height)
  const wide = Math.max(1, room / 2 - 4)
  const kept = useRef<Record<string, Fit>>({})
  if (!scene) return <p className="m-auto text-ash">Choose a scene to see its plan.</p>
  return (
    <div ref={ref} className="relative flex min-h-0 flex-1 gap-2 overflow-hidden bg-easel">
      {size.width > 0 &&
        plan?.map((view) => {
          const [x0, y0, x1, y1] = bounds(view)
          const scale = Math.min((wide - 2 * MARGIN) / Math.max(x1 - x0, 0.5), (tall - 2 * MARGIN) / Math.max(y1 - y0, 0.5))
          const fresh = { scale, left: wide / 2 - ((x0 + x1) / 2) * scale, top: tall / 2 - ((y0 + y1) / 2) * scale }
          // The drawing stays as it is while something in it is dragged.
          const fit = dragging && kept.current[view.view] ? (kept.current[view.view] as Fit) : fresh
          kept.current[view.view] = fit
          return <Drawing key={view.view} view={view} fit={fit} width={wide} height={tall} scene={scene} />
        })}
      <div className="ml-auto flex flex-col justify-center pr-3" style={{ width: side + 12 }}>
        <canvas
          ref={(node) => useScreen.getState().screen?.attach('film', node)}
          role="img"
          aria-label="The film at the playhead"
          className="block bg-black shadow-[0_2px_12px_#0008]"
          style={{ width: side, height: side / aspect }}
        />
        <p className="mt-2 text-[12px] leading-snug text-ash">Drag the camera, where it looks, a photo, the focus or the lamp. Arrows do the same.</p>
      </div>
    </div>
  )
}

function Drawing({ view, fit, width, height, scene }: { view: PlanView; fit: Fit; width: number; height: number; scene: string }) {
  const svg = useRef<SVGSVGElement>(null)
  const document = useSceneAlone(scene)
  const applied = useProject((s) => s.applied)
  const chosen = useSession((s) => s.chosenLayers)
  const lit = (l: { container: string; layer: string }) => chosen.some((c) => c.scene === l.container && c.layer === l.layer)
  const seen = ([x, y]: Corner): Corner => [fit.left + x * fit.scale, fit.top + y * fit.scale]
  const world = (at: [number, number]): Corner => {
    const rect = svg.current?.getBoundingClientRect()
    return [(at[0] - (rect?.left ?? 0) - fit.left) / fit.scale, (at[1] - (rect?.top ?? 0) - fit.top) / fit.scale]
  }
  const made = (w: What, start: Corner, end: Corner): Edit => ({
    edit: 'drag_plan',
    scene,
    view: w.view,
    what: w.what,
    layer: w.layer ?? null,
    start,
    end,
    at: Math.round(useSession.getState().playhead),
  })
  const constrained = (start: Corner, end: Corner, held: Held): Corner =>
    held.constrain ? (Math.abs(end[0] - start[0]) >= Math.abs(end[1] - start[1]) ? [end[0], start[1]] : [start[0], end[1]]) : end
  const bind = useDrag<What>({
    onPress: (w) => w.layer && chooseLayers([w.layer]),
    onTry: (w, start, now, held) => tryEdits([made(w, world(start), constrained(world(start), world(now), held))]),
    onSet: (w, start, now, held) => void edit(made(w, world(start), constrained(world(start), world(now), held))),
    onGiveUp: () => tryEdits(null),
  })
  const nudge = (w: What, at: Corner) => (event: KeyboardEvent) => {
    const step = NUDGE * (event.shiftKey ? 10 : 1)
    const ways: Record<string, Corner> = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }
    const way = ways[event.key]
    if (!way) return
    event.preventDefault()
    event.stopPropagation()
    void edit(made(w, at, [at[0] + way[0], at[1] + way[1]]))
  }
  const handle = (w: What, at: Corner, label: string) => ({
    role: 'button',
    tabIndex: 0,
    'aria-label': `${label}, ${TITLES[view.view].toLowerCase()}`,
    onKeyDown: nudge(w, at),
    style: { cursor: 'move', touchAction: 'none' } as const,
    ...bind(w),
  })
  const points = (list: Corner[]) => list.map((p) => seen(p).join(',')).join(' ')
  const name = (l: { container: string; layer: string }) => calledOf({ document, applied }, { scene: l.container, layer: l.layer })
  const [eye, aim] = [seen(view.camera), seen(view.aim)]
  const angle = (Math.atan2(aim[1] - eye[1], aim[0] - eye[0]) * 180) / Math.PI
  const of = (what: What['what']): What => ({ view: view.view, what })
  return (
    <svg ref={svg} width={width} height={height} aria-label={`Plan ${TITLES[view.view].toLowerCase()}`} className="shrink-0 bg-surround">
      <text x={10} y={18} className="fill-ash text-[11px]">
        {TITLES[view.view]}
      </text>
      <polygon points={points(view.field)} className="fill-white/6 stroke-white/25" strokeDasharray="4 4" />
      {/* The plane that stands as the frame. */}
      {view.view === 'top' ? (
        <line x1={0} x2={width} y1={seen([0, 0])[1]} y2={seen([0, 0])[1]} className="stroke-white/15" />
      ) : (
        <line y1={0} y2={height} x1={seen([0, 0])[0]} x2={seen([0, 0])[0]} className="stroke-white/15" />
      )}
      {view.path.length > 1 && <polyline points={points(view.path)} fill="none" className="stroke-glow" strokeDasharray="1 5" strokeWidth={2.5} strokeLinecap="round" />}
      {view.layers.map((l, index) => {
        const w: What = { view: view.view, what: 'layer', layer: { scene: l.container, layer: l.layer } }
        const middle: Corner = [l.corners.reduce((a, c) => a + c[0], 0) / 4, l.corners.reduce((a, c) => a + c[1], 0) / 4]
        const [mx, my] = seen(middle)
        return (
          <g key={`${l.container}/${l.layer}`} {...handle(w, middle, `Move ${name(l)}`)}>
            <polygon points={points(l.corners)} strokeWidth={14} className="stroke-transparent" fill="transparent" />
            <polygon points={points(l.corners)} strokeWidth={lit(l) ? 4 : 3} strokeLinejoin="round" className={lit(l) ? 'fill-glow/25 stroke-glow' : 'fill-white/10 stroke-chalk'} />
            <title>{name(l)}</title>
            {(lit(l) || view.layers.length <= FEW) && (
              <text x={mx + 6} y={my - 7 - (view.view === 'side' ? 30 + 14 * index : 0)} className="pointer-events-none fill-chalk text-[11px]">
                {name(l)}
              </text>
            )}
          </g>
        )
      })}
      {view.focus.length === 2 && view.focus[0] && view.focus[1] && (
        <g {...handle(of('focus'), view.focus[0], 'Move the focus')}>
          {(() => {
            const [a, b] = [seen(view.focus[0]), seen(view.focus[1])]
            return (
              <>
                <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} strokeWidth={14} className="stroke-transparent" />
                <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} strokeWidth={1.5} strokeDasharray="7 4" className="stroke-water" />
                <text x={b[0] - 6} y={b[1] + (view.view === 'top' ? 13 : 0)} textAnchor="end" className="fill-water text-[11px]">
                  focus
                </text>
              </>
            )
          })()}
        </g>
      )}
      <g {...handle(of('point'), view.point, 'Move the point of the orbit')}>
        <circle cx={seen(view.point)[0]} cy={seen(view.point)[1]} r={8} fill="transparent" />
        <path d={`M${seen(view.point)[0] - 5} ${seen(view.point)[1]}h10M${seen(view.point)[0]} ${seen(view.point)[1] - 5}v10`} className="stroke-glow" strokeWidth={1.5} />
      </g>
      {view.lamp && (
        <g {...handle(of('lamp'), view.lamp, 'Move the lamp')}>
          <circle cx={seen(view.lamp)[0]} cy={seen(view.lamp)[1]} r={7} className="fill-lamplight stroke-glow" strokeWidth={2} />
          <text x={seen(view.lamp)[0] + 10} y={seen(view.lamp)[1] + 4} className="pointer-events-none fill-ash text-[11px]">
            lamp
          </text>
        </g>
      )}
      <line x1={eye[0]} y1={eye[1]} x2={aim[0]} y2={aim[1]} className="stroke-glow/60" />
      <g {...handle(of('aim'), view.aim, 'Turn the camera')}>
        <circle cx={aim[0]} cy={aim[1]} r={6} fill="#2c2c2c" className="stroke-glow" strokeWidth={2} />
      </g>
      <g {...handle(of('camera'), view.camera, 'Move the camera')} transform={`rotate(${angle} ${eye[0]} ${eye[1]})`}>
        <rect x={eye[0] - 15} y={eye[1] - 8} width={17} height={16} rx={3} className="fill-glow" />
        <path d={`M${eye[0] + 2} ${eye[1] - 3}l7 -5v16l-7 -5z`} className="fill-glow" />
      </g>
    </svg>
  )
}
