import type { Edit } from '@/api/client'
import type { KeyboardEvent } from 'react'
import { useDrag } from '@/interaction/drag'
import { useGeometry } from '@/playback/screen'
import type { Corner } from '@/playback/socket'
import { edit } from '@/project/connection'
import { calledOf } from '@/project/kinds'
import { useProject } from '@/project/project'
import { chooseKeys, tryEdits, useSession } from '@/project/session'
import { type Box, toDocument, toView } from '@/interaction/placing'

type Props = { box: Box; origin: () => { left: number; top: number } }
type PathPart = { container: string; layer: string; key: string; part: 'point' | 'in' | 'out' }

const NUDGE = 0.005

/** Paths of the chosen layers with their keys and tangents, through the surround, too; ghosts of other frames; the lamp; of chosen layers that are locked, where
 * they are. */
export function MotionOverlay({ box, origin }: Props) {
  const geometry = useGeometry((s) => s.geometry)
  const chosen = useSession((s) => s.chosenLayers)
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? '')
  const at = () => Math.round(useSession.getState().playhead)
  const fraction = (p: [number, number]): Corner => toDocument(box, [p[0] - origin().left, p[1] - origin().top])
  const made = (what: PathPart, start: Corner, end: Corner, constrain: boolean, copy: boolean): Edit => ({
    edit: 'drag_path',
    lane: { scene: what.container, layer: what.layer, property: 'placement.path', on: scene },
    key: what.key,
    part: what.part,
    start,
    end,
    constrain,
    break_off: copy,
    at: at(),
  })
  const bind = useDrag<PathPart>({
    onPress: (w) => chooseKeys([{ scene: w.container, layer: w.layer, property: 'placement.path', key: w.key, on: scene }]),
    onTry: (w, start, now, held) => tryEdits([made(w, fraction(start), fraction(now), held.constrain, held.copy)]),
    onSet: (w, start, now, held) => void edit(made(w, fraction(start), fraction(now), held.constrain, held.copy)),
    onGiveUp: () => tryEdits(null),
  })
  const lampMade = (start: Corner, end: Corner): Edit => ({ edit: 'drag_lamp', scene, start, end, at: at() })
  const bindLamp = useDrag<'lamp'>({
    onTry: (_, start, now) => tryEdits([lampMade(fraction(start), fraction(now))]),
    onSet: (_, start, now) => void edit(lampMade(fraction(start), fraction(now))),
    onGiveUp: () => tryEdits(null),
  })
  const ways = (event: KeyboardEvent): Corner | null => {
    const step = NUDGE * (event.shiftKey ? 10 : 1)
    return ({ ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] } as Record<string, Corner>)[event.key] ?? null
  }
  const nudge = (run: (start: Corner, end: Corner) => void, from: Corner) => (event: KeyboardEvent) => {
    const way = ways(event)
    if (!way) return
    event.preventDefault()
    event.stopPropagation()
    run(from, [from[0] + way[0], from[1] + way[1]])
  }
  const points = (list: Corner[]) => list.map((p) => toView(box, p).join(',')).join(' ')
  const lamp = geometry.lamp
  const shown = geometry.paths.filter((p) => chosen.length === 0 || chosen.some((c) => c.scene === p.container && c.layer === p.layer))
  const grab = { style: { cursor: 'move', touchAction: 'none' } as const, pointerEvents: 'all' as const, role: 'button', tabIndex: 0 }
  const locked = geometry.layers.filter((l) => l.locked && chosen.some((c) => c.scene === l.container && c.layer === l.layer))
  return (
    <>
      {locked.map((l) => (
        <polygon key={`${l.container}/${l.layer}`} data-outline="locked" points={points(l.corners)} fill="none" className="stroke-glow" strokeWidth={1.2} strokeDasharray="2 4" pointerEvents="none" />
      ))}
      {geometry.ghosts.map((g, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: ghosts have no identity of their own
        <polygon key={i} points={points(g.corners)} fill="none" className={g.after ? 'stroke-water' : 'stroke-glow'} strokeOpacity={0.55} strokeDasharray={g.after ? '2 4' : undefined} />
      ))}
      {shown.map((path) => {
        const name = calledOf(useProject.getState(), { scene: path.container, layer: path.layer }) || 'the layer'
        return (
          <g key={`${path.container}/${path.layer}`} aria-label={`Path of ${name}`}>
            <polyline points={points(path.dots)} fill="none" stroke="#0006" strokeWidth={3} />
            <polyline points={points(path.dots)} fill="none" className="stroke-glow" strokeOpacity={0.55} strokeWidth={1} />
            {path.dots.map((d, i) => {
              const [x, y] = toView(box, d)
              // biome-ignore lint/suspicious/noArrayIndexKey: one dot a frame
              return <circle key={i} cx={x} cy={y} r={1.5} className="fill-glow" />
            })}
            {path.keys.map((key, index) => {
              const [x, y] = toView(box, key.point)
              return (
                <g key={key.id}>
                  {(['in', 'out'] as const).map((part) => {
                    const end = part === 'in' ? key.tangent_in : key.tangent_out
                    if (!end) return null
                    const [tx, ty] = toView(box, end)
                    const what: PathPart = { container: path.container, layer: path.layer, key: key.id, part }
                    return (
                      <g key={part}>
                        <line x1={x} y1={y} x2={tx} y2={ty} stroke="#fff" strokeOpacity={0.7} />
                        <circle
                          cx={tx}
                          cy={ty}
                          r={4}
                          fill="#fff"
                          {...grab}
                          aria-label={`Tangent ${part === 'in' ? 'into' : 'out of'} point ${index + 1} of the path of ${name}`}
                          {...bind(what)}
                          onKeyDown={nudge((a, b) => void edit(made(what, a, b, false, false)), end)}
                        />
                      </g>
                    )
                  })}
                  <rect
                    x={x - 5}
                    y={y - 5}
                    width={10}
                    height={10}
                    rx={key.smooth ? 5 : 1.5}
                    fill="#2c2c2c"
                    className="stroke-glow"
                    strokeWidth={2}
                    {...grab}
                    aria-label={`Point ${index + 1} of the path of ${name}`}
                    {...bind({ container: path.container, layer: path.layer, key: key.id, part: 'point' })}
                    onKeyDown={nudge((a, b) => void edit(made({ container: path.container, layer: path.layer, key: key.id, part: 'point' }, a, b, false, false)), key.point)}
                  />
                </g>
              )
            })}
          </g>
        )
      })}
      {lamp && (
        <g {...grab} aria-label="Move the lamp" {...bindLamp('lamp')} onKeyDown={nudge((a, b) => void edit(lampMade(a, b)), lamp)}>
          <circle cx={toView(box, lamp)[0]} cy={toView(box, lamp)[1]} r={15} fill="#ffe2b033" />
          <circle cx={toView(box, lamp)[0]} cy={toView(box, lamp)[1]} r={6.5} fill="#ffe2b0" stroke="#8f5a12" strokeWidth={1.5} />
        </g>
      )}
    </>
  )
}
