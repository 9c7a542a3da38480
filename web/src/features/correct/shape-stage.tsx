import { control } from '@/project/controls'
import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { client, type Edit, type EditOf, type Media, settled, type Shape } from '@/api/client'
import { useDrag } from '@/interaction/drag'
import { useTrial } from '@/interaction/trial'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { Select } from '@/ui/choice'
import { NumberField } from '@/ui/number'

export type Tool = 'crop' | 'line' | 'subject'
export type Ratio = 'free' | 'frame' | number

type Point = [number, number]

const RATIOS: [string, string, Ratio][] = [
  ['free', 'Any shape', 'free'],
  ['frame', 'As the film’s frame', 'frame'],
  ['1.5', '3 : 2', 1.5],
  ['1.3333', '4 : 3', 4 / 3],
  ['1', 'Square', 1],
  ['0.8', '4 : 5', 0.8],
  ['1.7778', '16 : 9', 16 / 9],
  ['own', 'Own…', 2],
]

export function RatioFields({ ratio, onSet }: { ratio: Ratio; onSet: (ratio: Ratio) => void }) {
  const known = RATIOS.find(([, , r]) => r === ratio && r !== 2)
  return (
    <div>
      <Select
        label="Shape of the crop"
        value={known?.[0] ?? 'own'}
        choices={RATIOS.map(([k, label]) => [k, label] as const)}
        onSet={(k) => onSet(RATIOS.find(([key]) => key === k)?.[2] ?? 'free')}
        className="w-full"
      />
      {!known && typeof ratio === 'number' && <NumberField {...control('window.aspect')} value={ratio} onSet={onSet} />}
    </div>
  )
}

const HANDLES = ['top left', 'top right', 'bottom right', 'bottom left']

/** The picture with a frame to drag for its crop or its subject, or to draw a line on that shall be level. */
export function ShapeStage({ id, media, url, tool, ratio, onToolDone }: { id: string; media: Media; url: string | null; tool: Tool; ratio: Ratio; onToolDone: () => void }) {
  const frame = useProject((s) => s.document.frame)
  const box = useRef<HTMLDivElement>(null)
  const [size, setSize] = useState({ width: 1, height: 1 })
  const project = useProject((s) => s.id)
  const ask = (edits: Edit[]) => settled(client.POST('/api/projects/{project}/pictures/{media}/shape', { params: { path: { project, media: id } }, body: { edits } })) as Promise<Shape>
  const trial = useTrial(ask)
  const { data: lies } = useQuery({
    queryKey: ['shape', project, id, media.crop, media.subject, media.straighten, media.turned, media.flipped],
    queryFn: () => ask([]),
    placeholderData: (before, query) => (query?.queryKey[2] === id ? before : undefined),
  })
  const [line, setLine] = useState<{ start: Point; end: Point } | null>(null)
  const fraction = (at: Point): Point => {
    const r = box.current?.getBoundingClientRect()
    return r ? [(at[0] - r.left) / r.width, (at[1] - r.top) / r.height] : [0, 0]
  }
  const clampLine = (p: Point): Point => [Math.min(1, Math.max(0, p[0])), Math.min(1, Math.max(0, p[1]))]
  const draw = useDrag<'line'>({
    onTry: (_, start, now) => setLine({ start: clampLine(fraction(start)), end: clampLine(fraction(now)) }),
    onSet: (_, start, now) => {
      setLine(null)
      void edit({ edit: 'straighten_picture', id, start: clampLine(fraction(start)), end: clampLine(fraction(now)) }).then(onToolDone)
    },
    onGiveUp: () => setLine(null),
  })
  const shape = tool === 'crop' && ratio !== 'free' ? (ratio === 'frame' ? (frame?.width ?? 16) / (frame?.height ?? 9) : ratio) : null
  const reshape = (handle: EditOf<'reshape_picture'>['handle'], start: Point, now: Point): EditOf<'reshape_picture'> => ({
    edit: 'reshape_picture',
    id,
    what: tool === 'subject' ? 'subject' : 'crop',
    handle,
    start: fraction(start),
    end: fraction(now),
    shape,
  })
  const bind = useDrag<EditOf<'reshape_picture'>['handle']>({
    onTry: (...how) => trial.attempt([reshape(...take(how))]),
    onSet: (...how) => void edit(reshape(...take(how))).then(trial.end),
    onGiveUp: trial.end,
  })
  const place = trial.outcome ?? lies
  if (!url || !place) return <span className="text-ash">…</span>
  const shown = tool === 'subject' ? place.subject : place.crop
  const turn = tool === 'crop' ? place.turn : 0
  const centre: Point = [(shown.x + shown.width / 2) * size.width, (shown.y + shown.height / 2) * size.height]
  const half: Point = [(shown.width / 2) * size.width, (shown.height / 2) * size.height]
  const corners: Point[] = [
    [-half[0], -half[1]],
    [half[0], -half[1]],
    [half[0], half[1]],
    [-half[0], half[1]],
  ]
  return (
    <div ref={box} className="relative m-3 touch-none">
      <img
        src={url}
        alt={media.name}
        draggable={false}
        onLoad={(e) => setSize({ width: e.currentTarget.clientWidth, height: e.currentTarget.clientHeight })}
        className="block max-h-[calc(62vh-24px)] max-w-full select-none object-contain"
      />
      {tool === 'line' ? (
        <svg aria-label="Draw a line along something level or upright" className="absolute inset-0 h-full w-full cursor-crosshair" {...draw('line')}>
          <rect width="100%" height="100%" fill="transparent" />
          {line && <line x1={`${line.start[0] * 100}%`} y1={`${line.start[1] * 100}%`} x2={`${line.end[0] * 100}%`} y2={`${line.end[1] * 100}%`} stroke="#e2a94a" strokeWidth={2} />}
        </svg>
      ) : (
        <svg aria-label={tool === 'crop' ? 'Crop' : 'Subject'} className="absolute inset-0 h-full w-full overflow-visible">
          {tool === 'crop' && (
            <path
              fillRule="evenodd"
              fill="#000"
              fillOpacity={0.55}
              pointerEvents="none"
              d={`M0 0H${size.width}V${size.height}H0Z M${corners.map((c) => rotated(c, turn, centre).join(' ')).join('L')}Z`}
            />
          )}
          <g transform={`translate(${centre[0]} ${centre[1]}) rotate(${turn})`}>
            <rect
              x={-half[0]}
              y={-half[1]}
              width={2 * half[0]}
              height={2 * half[1]}
              fill="transparent"
              stroke={tool === 'crop' ? '#fff' : '#e2a94a'}
              strokeWidth={1.5}
              strokeDasharray={tool === 'crop' ? undefined : '6 4'}
              className="cursor-move"
              role="button"
              tabIndex={0}
              aria-label={`Move the ${tool}`}
              {...bind('inside')}
            />
            {corners.map((c, i) => (
              <circle
                key={HANDLES[i]}
                cx={c[0]}
                cy={c[1]}
                r={6}
                fill="#fff"
                stroke="#2b2620"
                className="cursor-nwse-resize"
                role="button"
                tabIndex={0}
                aria-label={`${tool === 'crop' ? 'Crop' : 'Subject'}, ${HANDLES[i]}`}
                {...bind(`corner${i as 0 | 1 | 2 | 3}`)}
              />
            ))}
          </g>
        </svg>
      )}
    </div>
  )
}

const rotated = ([x, y]: Point, deg: number, centre: Point): Point => {
  const a = (deg * Math.PI) / 180
  return [centre[0] + x * Math.cos(a) - y * Math.sin(a), centre[1] + x * Math.sin(a) + y * Math.cos(a)]
}

const take = <H, P>([handle, start, now]: [H, P, P, ...unknown[]]): [H, P, P] => [handle, start, now]
