import { control } from '@/project/controls'
import { useRef, useState } from 'react'
import type { Area, Media } from '@/api/client'
import { useDrag } from '@/interaction/drag'
import { edit, useProject } from '@/project/store'
import { Select } from '@/ui/choice'
import { NumberField } from '@/ui/number'

export type Tool = 'crop' | 'line' | 'subject'
export type Ratio = 'free' | 'frame' | number

type Point = [number, number]
type Rect = { x: number; y: number; width: number; height: number }

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
      <Select label="Shape of the crop" value={known?.[0] ?? 'own'} choices={RATIOS.map(([k, label]) => [k, label] as const)} onSet={(k) => onSet(RATIOS.find(([key]) => key === k)?.[2] ?? 'free')} className="w-full" />
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
  const [tried, setTried] = useState<Rect | null>(null)
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
  const present: Rect = tool === 'subject' ? subjectRect(media) : (media.crop ?? { x: 0, y: 0, width: 1, height: 1 })
  const shown = tried ?? present
  const shape = tool === 'crop' && ratio !== 'free' ? (ratio === 'frame' ? (frame?.width ?? 16) / (frame?.height ?? 9) : ratio) : null
  const turn = tool === 'crop' ? -(media.straighten ?? 0) : 0
  const after = (handle: string, start: Point, now: Point): Rect => reshaped(present, handle, fraction(start), fraction(now), shape, size.width / size.height, turn)
  const bind = useDrag<string>({
    onTry: (handle, start, now) => setTried(after(handle, start, now)),
    onSet: (handle, start, now) => {
      const rect = after(handle, start, now)
      const done = tool === 'subject' ? edit({ edit: 'set_pictures', ids: [id], subject: fileArea(media, rect) }) : edit({ edit: 'set_pictures', ids: [id], crop: rect })
      void done.then(() => setTried(null))
    },
    onGiveUp: () => setTried(null),
  })
  if (!url) return <span className="text-ash">…</span>
  const centre: Point = [(shown.x + shown.width / 2) * size.width, (shown.y + shown.height / 2) * size.height]
  const half: Point = [(shown.width / 2) * size.width, (shown.height / 2) * size.height]
  const corners: Point[] = [[-half[0], -half[1]], [half[0], -half[1]], [half[0], half[1]], [-half[0], half[1]]]
  return (
    <div ref={box} className="relative m-3 touch-none">
      <img src={url} alt={media.name} draggable={false} onLoad={(e) => setSize({ width: e.currentTarget.clientWidth, height: e.currentTarget.clientHeight })} className="block max-h-[calc(62vh-24px)] max-w-full select-none object-contain" />
      {tool === 'line' ? (
        <svg aria-label="Draw a line along something level or upright" className="absolute inset-0 h-full w-full cursor-crosshair" {...draw('line')}>
          <rect width="100%" height="100%" fill="transparent" />
          {line && <line x1={`${line.start[0] * 100}%`} y1={`${line.start[1] * 100}%`} x2={`${line.end[0] * 100}%`} y2={`${line.end[1] * 100}%`} stroke="#e2a94a" strokeWidth={2} />}
        </svg>
      ) : (
        <svg aria-label={tool === 'crop' ? 'Crop' : 'Subject'} className="absolute inset-0 h-full w-full overflow-visible">
          {tool === 'crop' && <path fillRule="evenodd" fill="#000" fillOpacity={0.55} pointerEvents="none" d={`M0 0H${size.width}V${size.height}H0Z M${corners.map((c) => rotated(c, turn, centre).join(' ')).join('L')}Z`} />}
          <g transform={`translate(${centre[0]} ${centre[1]}) rotate(${turn})`}>
            <rect x={-half[0]} y={-half[1]} width={2 * half[0]} height={2 * half[1]} fill="transparent" stroke={tool === 'crop' ? '#fff' : '#e2a94a'} strokeWidth={1.5} strokeDasharray={tool === 'crop' ? undefined : '6 4'} className="cursor-move" role="button" tabIndex={0} aria-label={`Move the ${tool}`} {...bind('inside')} />
            {corners.map((c, i) => (
              <circle key={HANDLES[i]} cx={c[0]} cy={c[1]} r={6} fill="#fff" stroke="#2b2620" className="cursor-nwse-resize" role="button" tabIndex={0} aria-label={`${tool === 'crop' ? 'Crop' : 'Subject'}, ${HANDLES[i]}`} {...bind(`corner${i}`)} />
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

/** A rectangle (fractions) after one of its handles went from one place to another; `aspect`: the picture's, `turn`: of the rectangle. */
export function reshaped(rect: Rect, handle: string, start: Point, now: Point, shape: number | null, aspect: number, turn: number): Rect {
  // Along the rectangle's own axes, in heights of the picture.
  const a = (-turn * Math.PI) / 180
  const [dx, dy] = [(now[0] - start[0]) * aspect, now[1] - start[1]]
  const [u, v] = [dx * Math.cos(a) - dy * Math.sin(a), dx * Math.sin(a) + dy * Math.cos(a)]
  let [width, height] = [rect.width * aspect, rect.height]
  const centre: Point = [(rect.x + rect.width / 2) * aspect, rect.y + rect.height / 2]
  let move: Point = [dx, dy]
  if (handle !== 'inside') {
    const i = Number(handle.at(-1))
    const [sx, sy] = [i === 1 || i === 2 ? 1 : -1, i >= 2 ? 1 : -1]
    const [w, h] = [Math.max(0.03, width + sx * u), Math.max(0.03, height + sy * v)]
    const [nw, nh] = shape === null ? [w, h] : w / h > shape ? [h * shape, h] : [w, w / shape]
    const [mx, my] = [(sx * (nw - width)) / 2, (sy * (nh - height)) / 2]
    move = [mx * Math.cos(-a) - my * Math.sin(-a), mx * Math.sin(-a) + my * Math.cos(-a)]
    width = nw
    height = nh
  }
  const share = Math.min(1, aspect / width, 1 / height)
  const [fw, fh] = [(width * share) / aspect, height * share]
  const x = Math.min(1 - fw, Math.max(0, (centre[0] + move[0]) / aspect - fw / 2))
  const y = Math.min(1 - fh, Math.max(0, centre[1] + move[1] - fh / 2))
  return { x, y, width: fw, height: fh }
}

/** The subject, which is kept in the file's own fractions, on the picture as it is turned and flipped. */
function subjectRect(media: Media): Rect {
  const s = media.subject
  if (!s) return { x: 0.3, y: 0.3, width: 0.4, height: 0.4 }
  let rect: Rect = { x: s.x ?? 0, y: s.y ?? 0, width: s.width ?? 1, height: s.height ?? 1 }
  for (let i = 0; i < (media.turned ?? 0); i += 1) rect = { x: 1 - rect.y - rect.height, y: rect.x, width: rect.height, height: rect.width }
  return media.flipped ? { ...rect, x: 1 - rect.x - rect.width } : rect
}

function fileArea(media: Media, rect: Rect): Area {
  let area = media.flipped ? { ...rect, x: 1 - rect.x - rect.width } : rect
  for (let i = 0; i < (media.turned ?? 0); i += 1) area = { x: area.y, y: 1 - area.x - area.width, width: area.height, height: area.width }
  return area
}
