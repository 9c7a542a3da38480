import { useQuery } from '@tanstack/react-query'
import { client, type Edit, type Filling, settled } from '@/api/client'
import { useArea } from '@/interaction/area'
import { placed } from '@/interaction/placing'
import { layersOf, useProject } from '@/project/project'
import { TriedFrame } from '@/project/tried-frame'
import type { Question } from './questions'

const SHARE = 0.7
const FRAME_PX = 960

type Props = { scene: string; tried: Edit[]; filling: Filling; asked: Question; onAsk: (id: string) => void }

/** A scene where it stands whole; its words can be pressed, to be asked about. */
export function Picture({ scene, tried, filling, asked, onAsk }: Props) {
  const { ref, size } = useArea()
  const project = useProject((s) => s.id)
  const revision = useProject((s) => s.revision)
  const frame = useProject((s) => s.document.frame)
  const layers = useProject((s) => layersOf(s.document, scene))
  const aspect = (frame?.width ?? 16) / (frame?.height ?? 9)
  const box = placed(size.width, size.height, aspect, 0)
  const { data } = useQuery({
    queryKey: ['outlines', project, scene, SHARE, revision],
    queryFn: () => settled(client.GET('/api/projects/{project}/scenes/{scene}/outlines', { params: { path: { project, scene }, query: { share: SHARE } } })),
    placeholderData: (before) => before,
  })
  const words = (data?.outlines ?? []).flatMap(({ container, layer, corners }) => {
    const record = container === scene ? layers[layer] : undefined
    const zone = record?.kind === 'text' && record.zone ? filling.zones.find((z) => z.zone === record.zone && sharesTurn(z, filling, scene)) : undefined
    return zone ? [{ zone, corners }] : []
  })
  return (
    <div
      ref={ref}
      className="relative min-h-[200px] flex-1 overflow-hidden rounded-xl bg-surround max-lg:aspect-[var(--shape)] max-lg:max-h-[46vh]"
      style={{ '--shape': String(aspect) } as React.CSSProperties}
    >
      <span className="absolute block" style={{ left: box.left, top: box.top, width: box.width, height: box.height }}>
        <TriedFrame scene={scene} edits={tried} share={SHARE} width={FRAME_PX} alt="The scene as it is" className="h-full w-full !rounded-none" />
      </span>
      {size.width > 0 && (
        <svg aria-label="Words on the picture" className="absolute overflow-hidden" style={{ left: box.left, top: box.top, width: box.width, height: box.height }}>
          {words.map(({ zone, corners }) => {
            const id = `${zone.scene} ${zone.zone}`
            return (
              <polygon
                key={id}
                role="button"
                tabIndex={0}
                aria-label={`Change: ${zone.name}`}
                points={corners.map((c) => `${(c[0] ?? 0) * box.width},${(c[1] ?? 0) * box.height}`).join(' ')}
                fill={asked.id === id ? '#e2a94a2e' : 'transparent'}
                stroke="#e2a94a"
                strokeWidth={asked.id === id ? 2.5 : 1.5}
                strokeDasharray={asked.id === id ? undefined : '5 5'}
                className="cursor-pointer"
                onClick={() => onAsk(id)}
                onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ') && onAsk(id)}
              />
            )
          })}
        </svg>
      )}
    </div>
  )
}

/** Whether a zone, listed where it is seen first, is that of a scene: scenes of one turn of a template share what is in theirs. */
function sharesTurn(zone: Filling['zones'][number], filling: Filling, scene: string): boolean {
  const made = useProject.getState().document.scenes?.[scene]?.template
  return Boolean(filling && made && zone.use === made.use && zone.round === (made.round ?? 0))
}
