import { Check, Film } from 'lucide-react'
import { type MouseEvent, type PointerEvent, type ReactNode, useEffect, useLayoutEffect, useRef, useState } from 'react'
import { useDrag } from '@/interaction/drag'
import { address, type Media, type MediaState } from '@/api/client'
import { pictureMark } from '@/project/project'
import { TICKS } from '@/project/times'
import { useShowing } from './showing'

const TILE = { width: 186, height: 194 }
const ROW_HEIGHT = 50
const OVERSCAN_ROWS = 3

/** How the tiles lie: columns, height of a row, and which rows are in sight. */
export type Grid = { columns: number; rowHeight: number }

export const gridOf = (width: number, asList: boolean): Grid => (asList ? { columns: 1, rowHeight: ROW_HEIGHT } : { columns: Math.max(1, Math.floor(width / TILE.width)), rowHeight: TILE.height })

/** The gap nearest to a point: `at` pictures stand before it. */
export function gapAt(grid: Grid, width: number, count: number, x: number, y: number): number {
  const row = Math.max(0, Math.floor(y / grid.rowHeight))
  if (grid.columns === 1) return Math.min(count, Math.max(0, Math.round(y / grid.rowHeight)))
  const column = Math.min(grid.columns, Math.max(0, Math.round((x / width) * grid.columns)))
  return Math.min(count, row * grid.columns + column)
}

type Props = {
  project: string
  /** A picture to be brought into sight, once. */
  wanted: string | null
  pictures: [string, Media][]
  chosen: string[]
  states: Record<string, MediaState>
  uses: Record<string, number>
  /** Where each is seen first. */
  places: Record<string, string>
  asList: boolean
  /** Whether a drag may change the order: not while only some pictures are listed. */
  movable: boolean
  onClick: (key: string, event: MouseEvent) => void
  onOpen: (key: string) => void
  /** The dragged pictures go before this one; null: to the end. */
  onMove: (ids: string[], before: string | null) => void
  children?: ReactNode
}

/** The pictures as tiles or lines; only those in sight exist, so that hundreds stay fluid. Several are dragged at once. */
export function Sheet({ project, wanted, pictures, chosen, states, uses, places, asList, movable, onClick, onOpen, onMove, children }: Props) {
  const list = useRef<HTMLUListElement>(null)
  const [view, setView] = useState({ width: 800, from: 0, to: 30 })
  const [drag, setDrag] = useState<{ ids: string[]; gap: number; x: number; y: number } | null>(null)
  const moved = useRef(false)
  const grid = gridOf(view.width, asList)
  const rows = Math.ceil(pictures.length / grid.columns)

  useLayoutEffect(() => {
    const node = list.current
    const scroller = node?.closest('[data-scroller]')
    if (!node || !scroller) return
    const look = () => {
      const width = node.clientWidth
      const g = gridOf(width, asList)
      const top = scroller.getBoundingClientRect().top - node.getBoundingClientRect().top
      const from = Math.max(0, Math.floor(top / g.rowHeight) - OVERSCAN_ROWS)
      const to = Math.ceil((top + scroller.clientHeight) / g.rowHeight) + OVERSCAN_ROWS
      setView((v) => (v.width === width && v.from === from && v.to === to ? v : { width, from, to }))
    }
    const watch = new ResizeObserver(look)
    watch.observe(node)
    scroller.addEventListener('scroll', look, { passive: true })
    look()
    return () => {
      watch.disconnect()
      scroller.removeEventListener('scroll', look)
    }
  }, [asList])

  useEffect(() => {
    const index = wanted ? pictures.findIndex(([key]) => key === wanted) : -1
    const scroller = list.current?.closest<HTMLElement>('[data-scroller]')
    if (index < 0 || !scroller || !list.current) return
    const g = gridOf(list.current.clientWidth, asList)
    scroller.scrollTop = Math.max(0, Math.floor(index / g.columns) * g.rowHeight - scroller.clientHeight / 3)
    // It is in the page once the rows in sight have been drawn.
    setTimeout(() => document.getElementById(`picture-${wanted}`)?.focus(), 60)
    useShowing.setState({ wanted: null })
  }, [wanted, pictures, asList])

  const dragTo = (id: string, [x, y]: [number, number]) => {
    const box = list.current?.getBoundingClientRect()
    return { ids: chosen.includes(id) ? chosen : [id], gap: gapAt(grid, box?.width ?? 0, pictures.length, x - (box?.left ?? 0), y - (box?.top ?? 0)), x, y }
  }
  const bind = useDrag<string>({
    onPress: () => {
      moved.current = false
    },
    onTry: (id, _, now) => {
      moved.current = true
      const scroller = list.current?.closest('[data-scroller]')
      const edge = scroller?.getBoundingClientRect()
      if (scroller && edge) scroller.scrollTop += now[1] < edge.top + 40 ? -14 : now[1] > edge.bottom - 40 ? 14 : 0
      setDrag(dragTo(id, now))
    },
    onSet: (id, _, now) => {
      const { ids, gap } = dragTo(id, now)
      setDrag(null)
      onMove(ids, pictures.slice(gap).find(([k]) => !ids.includes(k))?.[0] ?? null)
    },
    onGiveUp: () => setDrag(null),
  })
  /** A picture is dragged by its tile, but for a press that chooses more. */
  const handle = (id: string) => {
    const { onPointerDown, ...rest } = bind(id)
    return {
      ...rest,
      onPointerDown: (event: PointerEvent) => {
        moved.current = false
        if (movable && !event.shiftKey && !event.ctrlKey && !event.metaKey) onPointerDown(event)
      },
    }
  }
  const first = view.from * grid.columns
  const inSight = pictures.slice(first, view.to * grid.columns)
  const across = view.width / grid.columns
  return (
    <>
      <ul ref={list} aria-label="Pictures" className="relative" style={{ height: rows * grid.rowHeight }}>
        {inSight.map(([id, media], i) => {
          const index = first + i
          return (
            <li
              key={id}
              aria-posinset={index + 1}
              aria-setsize={pictures.length}
              className="absolute p-1"
              style={{
                left: (index % grid.columns) * across,
                top: Math.floor(index / grid.columns) * grid.rowHeight,
                width: across,
                height: grid.rowHeight,
                opacity: drag?.ids.includes(id) ? 0.4 : 1,
              }}
            >
              <Tile
                id={id}
                media={media}
                project={project}
                state={states[media.sha256]}
                uses={uses[id] ?? 0}
                place={places[id] ?? 'in the film'}
                chosen={chosen.includes(id)}
                tabbable={id === (chosen.at(-1) ?? pictures[0]?.[0])}
                asList={asList}
                handlers={{ ...handle(id), onClick: (e: MouseEvent) => !moved.current && onClick(id, e), onDoubleClick: () => onOpen(id) }}
              />
            </li>
          )
        })}
        {drag && <InsertionPlace grid={grid} gap={drag.gap} rows={rows} across={across} />}
      </ul>
      {children}
      {drag && (
        <div className="pointer-events-none fixed z-50 rounded-full bg-ink px-3 py-1 text-on-ink shadow-lg" style={{ left: drag.x + 14, top: drag.y + 10 }}>
          {drag.ids.length} picture{drag.ids.length === 1 ? '' : 's'}
        </div>
      )}
    </>
  )
}

/** Where what is dragged will go: a mark between two tiles, or two lines. */
function InsertionPlace({ grid, gap, rows, across }: { grid: Grid; gap: number; rows: number; across: number }) {
  const row = grid.columns === 1 ? gap : Math.min(Math.floor(gap / grid.columns), Math.max(0, rows - 1))
  const column = grid.columns === 1 ? 0 : gap - row * grid.columns
  return (
    <li
      aria-hidden="true"
      data-testid="insertion-mark"
      className="pointer-events-none absolute rounded-full bg-brass"
      style={grid.columns === 1 ? { left: 0, right: 0, top: row * grid.rowHeight - 2, height: 4 } : { left: column * across - 2, top: row * grid.rowHeight + 4, width: 4, height: grid.rowHeight - 8 }}
    />
  )
}

type TileProps = { id: string; media: Media; project: string; state?: MediaState; uses: number; place: string; chosen: boolean; tabbable: boolean; asList: boolean; handlers: Record<string, unknown> }

function Tile({ id, media, project, state, uses, place, chosen, tabbable, asList, handlers }: TileProps) {
  const bad = state?.state === 'failed' || state?.state === 'missing'
  const note = bad ? (
    <span className="font-semibold text-rowan" title={state.message}>
      {state.state === 'missing' ? 'file missing' : 'cannot be used'}
    </span>
  ) : state?.state === 'waiting' ? (
    <span>being prepared…</span>
  ) : null
  const trimmed = media.clip ? ((media.clip.end ?? media.clip.length) - (media.clip.start ?? 0)) / TICKS : 0
  return (
    <button
      type="button"
      id={`picture-${id}`}
      tabIndex={tabbable ? 0 : -1}
      aria-pressed={chosen}
      {...handlers}
      className={`h-full w-full touch-none select-none text-left ${asList ? `grid grid-cols-[64px_1fr_140px_150px_110px] items-center gap-4 rounded-md px-2 ${chosen ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}` : `block rounded-xl p-2 ${chosen ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}`}
    >
      <span className={`relative grid place-items-center ${asList ? 'h-10' : 'h-[114px]'}`}>
        <img
          src={address.thumbnail(project, id, pictureMark(media))}
          alt=""
          loading="lazy"
          draggable={false}
          className={`max-w-full object-contain shadow-sm ${asList ? 'max-h-10' : 'max-h-[114px]'}`}
        />
        {media.clip && !asList && (
          <span className="absolute bottom-1 left-1/2 flex -translate-x-1/2 items-center gap-1 rounded-full bg-black/65 px-2 font-mono text-[11px] text-white">
            <Film size={11} /> {trimmed.toFixed(1)} s
          </span>
        )}
      </span>
      <span className={`block truncate ${asList ? '' : 'mt-1.5 font-medium'}`}>{media.name}</span>
      <span className="block truncate text-[12px] text-soft">
        {media.width} × {media.height} {media.clip && asList && `· ${trimmed.toFixed(1)} s`} {!asList && note && <>· {note}</>}
      </span>
      {asList && <span className="text-[12px] text-soft">{media.captured ? media.captured.replace('T', ' ').slice(0, 16) : 'no capture time'}</span>}
      <span className={`flex items-center gap-1 text-[12px] ${uses ? 'text-lichen' : 'text-soft'}`}>
        {uses ? (
          <>
            <Check size={13} /> {uses > 1 ? `in ${uses} scenes` : place}
          </>
        ) : (
          'not used'
        )}{' '}
        {asList && note}
      </span>
    </button>
  )
}
