import { useQuery } from '@tanstack/react-query'
import { client, type Layer, settled, type Template } from '@/api/client'
import { type Box, placed } from '@/interaction/placing'
import { useArea } from '@/interaction/area'
import { calledOf } from '@/project/kinds'
import { inOrder } from '@/project/ordering'
import { layersOf, useProject } from '@/project/project'
import { chooseLayers, useSession } from '@/project/session'
import { TriedFrame } from '@/project/tried-frame'

const MARGIN = 0.04
const FRAME_PX = 960
const NUMBER_PX = 26

/** A moment of the scene, its drop zones marked on it with their numbers; what could be one is outlined. Pressing one chooses it. */
export function MarkedFrame({ scene, template, share }: { scene: string; template: Template; share: number }) {
  const { ref, size } = useArea()
  const project = useProject((s) => s.id)
  const revision = useProject((s) => s.revision)
  const frame = useProject((s) => s.document.frame)
  const layers = useProject((s) => layersOf(s.document, scene))
  const chosen = useSession((s) => s.chosenLayers[0]?.layer)
  const numbers = inOrder(template.zones).map(([k]) => k)
  const aspect = (frame?.width ?? 16) / (frame?.height ?? 9)
  const box = placed(size.width, size.height, aspect, MARGIN)
  const { data } = useQuery({
    queryKey: ['outlines', project, scene, share, revision],
    queryFn: () => settled(client.GET('/api/projects/{project}/scenes/{scene}/outlines', { params: { path: { project, scene }, query: { share } } })),
    placeholderData: (before) => before,
  })
  const offered = (data?.outlines ?? []).filter((o) => o.container === scene && (layers[o.layer]?.kind === 'photo' || layers[o.layer]?.kind === 'text'))
  return (
    <div ref={ref} className="relative min-h-0 flex-1 overflow-hidden bg-easel">
      <span className="absolute block" style={{ left: box.left, top: box.top, width: box.width, height: box.height }}>
        <TriedFrame scene={scene} edits={[]} share={share} width={FRAME_PX} alt="The scene" className="h-full w-full" />
      </span>
      {size.width > 0 && (
        <svg aria-label="Drop zones on the picture" className="absolute overflow-hidden" style={{ left: box.left, top: box.top, width: box.width, height: box.height }}>
          {offered.map(({ layer, corners }) => (
            <Mark
              key={layer}
              name={calledOf(useProject.getState(), { scene, layer })}
              number={numberOf(layers[layer], numbers)}
              points={corners.map((c): [number, number] => [(c[0] ?? 0) * box.width, (c[1] ?? 0) * box.height])}
              within={box}
              on={chosen === layer}
              onChoose={() => chooseLayers([{ scene, layer }])}
            />
          ))}
        </svg>
      )}
    </div>
  )
}

/** Which zone a layer is, from 1; null if it is none. */
export function numberOf(layer: Layer | undefined, numbers: string[]): number | null {
  const zone = layer?.kind === 'photo' || layer?.kind === 'text' ? layer.zone : null
  return zone ? numbers.indexOf(zone) + 1 : null
}

type MarkProps = { name: string; number: number | null; points: [number, number][]; within: Box; on: boolean; onChoose: () => void }

function Mark({ name, number, points, within, on, onChoose }: MarkProps) {
  // A mark stays in sight where what it marks fills the frame.
  const [x, y] = [within.width, within.height].map((room, i) => Math.min(Math.max(Math.min(...points.map((p) => p[i] ?? 0)) + NUMBER_PX, NUMBER_PX), room - NUMBER_PX)) as [number, number]
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={on}
      aria-label={number === null ? `${name}: no drop zone` : `Zone ${number}: ${name}`}
      onClick={onChoose}
      onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ') && onChoose()}
      className="cursor-pointer"
    >
      <polygon
        points={points.map((p) => p.join()).join(' ')}
        fill={on ? '#e2a94a2e' : 'transparent'}
        stroke={number === null ? '#ffffff' : '#e2a94a'}
        strokeOpacity={number === null && !on ? 0.55 : 1}
        strokeWidth={on ? 2.5 : 1.5}
        strokeDasharray={number === null ? '5 5' : undefined}
      />
      {number !== null && (
        <>
          <circle cx={x} cy={y} r={NUMBER_PX / 2} fill="#e2a94a" />
          <text x={x} y={y + 5} textAnchor="middle" fontSize={15} fontWeight={700} fill="#1b1712">
            {number}
          </text>
        </>
      )}
    </g>
  )
}
