import { Copy, Timer, Trash2 } from 'lucide-react'
import { useVirtualizer } from '@tanstack/react-virtual'
import { type KeyboardEvent, type MouseEvent, memo, type RefObject, useEffect, useMemo, useRef } from 'react'
import { address, type Finding, type Scene } from '@/api/client'
import { JoinLine } from '@/features/joins'
import { duplicateScenes, removeScenes, shiftScenes } from '@/project/scene-actions'
import { chosenAfter, neighbour, typing } from '@/interaction/choosing'
import { useReorder } from '@/interaction/reorder'
import { showScenes, useFirstPicture } from '@/playback/screen'
import { lookInto } from '@/project/findings'
import { inOrder } from '@/project/ordering'
import { openDialog } from '@/project/dialogs'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { space, useSession } from '@/project/session'
import { clockText, toSeconds } from '@/project/times'
import { Button, IconButton } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { later } from '@/ui/later'
import { InsertionMark } from '@/ui/insertion-mark'
import { Painted } from '@/ui/painted'

const TimeSheet = later<{ order: string[]; chosen: string[]; onClick: (id: string, event: MouseEvent) => void; onClose: () => void }>(() => import('./time-sheet').then((m) => m.TimeSheet))

function click(id: string, event: MouseEvent): void {
  const { document } = useProject.getState()
  const { chosenScenes } = useSession.getState()
  const order = inOrder(document.scenes).map(([k]) => k)
  showScenes(chosenAfter(order, chosenScenes, id, { toggle: event.ctrlKey || event.metaKey, range: event.shiftKey }))
}

export function RunSheet() {
  const scenes = useProject((s) => s.document.scenes)
  const timeline = useProject((s) => s.timeline)
  const findings = useProject((s) => s.findings)
  const marks = useProject((s) => s.marks)
  const chosen = useSession((s) => s.chosenScenes)
  const project = useProject((s) => s.id)
  const frame = useProject((s) => s.document.frame)
  const rows = useMemo(() => inOrder(scenes), [scenes])
  const order = useMemo(() => rows.map(([k]) => k), [rows])
  const spans = useMemo(() => Object.fromEntries(timeline.spans.map((s) => [s.scene, s])), [timeline])
  const ends = useProject((s) => s.document.ends)
  const spacing = useSession((s) => s.spacing)
  const first = timeline.spans[0]
  const final = timeline.spans.at(-1)
  const list = useRef<HTMLDivElement>(null)
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    scrollMargin: JOIN_PX,
    estimateSize: (i) => (i ? JOIN_PX : 0) + ROW_PX,
    overscan: 6,
    getItemKey: (i) => order[i] ?? i,
  })
  const shown = virtual.getVirtualItems()
  const passing = usePassing(virtual.isScrolling, virtual.scrollOffset ?? 0)
  const last = chosen.at(-1)
  // Rows far away are not there: the chosen one comes into view by its number.
  useEffect(() => {
    const index = order.indexOf(last ?? '')
    if (index >= 0) virtual.scrollToIndex(index, { align: 'auto' })
  }, [last, order, virtual])
  const onView = shown.map((v) => order[v.index] ?? '').join(' ')
  useEffect(() => lookInto([...(last && marks[last] ? [last] : []), ...onView.split(' ')]), [onView, last, marks])
  const sheet = useRef<HTMLOListElement>(null)
  const reorder = useReorder({
    list: sheet,
    order,
    moving: (id) => (chosen.includes(id) ? chosen : [id]),
    onMove: (ids, before) => void edit({ edit: 'move_scenes', ids, before: before && (order.slice(order.indexOf(before)).find((k) => !ids.includes(k)) ?? null) }),
  })
  const drags = useRef(reorder)
  drags.current = reorder
  const onKeyDown = (event: KeyboardEvent) => {
    if (typing(event.target)) return
    const way = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0
    if (!way) {
      const end = event.key === 'Home' ? order[0] : event.key === 'End' ? order.at(-1) : undefined
      if (end) {
        event.preventDefault()
        showScenes([end])
        virtual.scrollToIndex(order.indexOf(end))
        requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-scene="${end}"]`)?.focus())
      }
      if (event.key === 'a' && (event.ctrlKey || event.metaKey)) {
        showScenes([...order])
        event.preventDefault()
      }
      return
    }
    event.preventDefault()
    if (event.altKey && chosen.length) {
      shiftScenes(way)
      return
    }
    const to = neighbour(order, chosen.at(-1), way)
    if (!to) return
    showScenes(event.shiftKey ? [...chosen.filter((c) => c !== to), to] : [to])
    virtual.scrollToIndex(order.indexOf(to), { align: 'auto' })
    requestAnimationFrame(() => list.current?.querySelector<HTMLElement>(`[data-scene="${to}"]`)?.focus())
  }

  const aspect = (frame?.width ?? 16) / (frame?.height ?? 9)
  return (
    <section aria-label="Run sheet" className="flex min-h-0 flex-col border-r hairline contain-strict" onKeyDown={onKeyDown}>
      <div className="flex items-baseline justify-between px-4 pb-1.5 pt-2.5">
        <h2 className="font-heading text-[15px] font-semibold">Run sheet</h2>
        <span className="text-[12px] text-soft">
          {rows.length} scene{rows.length === 1 ? '' : 's'} · <span className="font-mono">{clockText(timeline.length)}</span>
        </span>
      </div>
      <div className="flex items-center justify-between px-3 pb-1.5">
        <Choice label="Spacing" value={spacing} choices={SPACINGS} onSet={(v) => space(v as 'even' | 'time')} />
        <Button size="small" kind="quiet" className="text-soft" onClick={() => openDialog('times')}>
          <Timer size={14} /> Times…
        </Button>
      </div>
      {spacing === 'time' ? (
        <TimeSheet order={order} chosen={chosen} onClick={click} onClose={() => space('even')} />
      ) : (
        <div ref={list} data-scroller className="min-h-0 flex-1 overflow-y-auto bg-paper px-2 pb-6">
          {rows.length > 0 && <JoinLine place={{ at: 'beginning' }} own={ends?.beginning ?? null} lasts={(first?.hold_start ?? 0) - (first?.join_start ?? 0)} />}
          <ol ref={sheet} aria-label="Scenes" className="relative" style={{ height: virtual.getTotalSize() }}>
            {shown.map(({ index, start }) => {
              const [id, scene] = rows[index] ?? []
              if (!id || !scene || (passing === 'flying' && (index < (virtual.range?.startIndex ?? 0) || index > (virtual.range?.endIndex ?? index)))) return null
              const span = spans[id]
              return (
                <Row
                  key={id}
                  id={id}
                  number={index + 1}
                  count={rows.length}
                  top={start - JOIN_PX}
                  scene={scene}
                  mark={marks[id]}
                  lasts={(span?.hold_start ?? 0) - (span?.join_start ?? 0)}
                  hold={(span?.hold_end ?? 0) - (span?.hold_start ?? 0)}
                  chosen={chosen.includes(id)}
                  tabbable={id === (last ?? order[0])}
                  soft={softest(findings[id])}
                  passing={passing}
                  project={project}
                  aspect={aspect}
                  dragged={reorder.drag?.ids.includes(id) ?? false}
                  drags={drags}
                />
              )
            })}
            {reorder.drag && (
              <li>
                <InsertionMark y={reorder.drag.y + JOIN_PX / 2} />
              </li>
            )}
          </ol>
          {rows.length > 0 && <JoinLine place={{ at: 'ending' }} own={ends?.ending ?? null} lasts={(final?.end ?? 0) - (final?.hold_end ?? 0)} />}
        </div>
      )}
      {chosen.length > 1 && (
        <div className="flex items-center justify-between border-t hairline bg-deep px-4 py-1.5">
          <span>{chosen.length} scenes chosen</span>
          <span className="flex">
            <IconButton label="Duplicate the chosen scenes" onClick={() => void duplicateScenes()}>
              <Copy size={15} />
            </IconButton>
            <IconButton label="Delete the chosen scenes" onClick={() => void removeScenes()}>
              <Trash2 size={15} />
            </IconButton>
          </span>
        </div>
      )}
    </section>
  )
}

const SPACINGS = [
  ['even', 'Even'],
  ['time', 'To time'],
] as const
const ROW_PX = 110
const JOIN_PX = 23
const FAST_PX_PER_MS = 0.6
const FLYING_PX_PER_MS = 1.5

const softest = (finding: Finding | undefined): number => Math.max(0, ...(finding?.photos ?? []).filter((p) => p.soft).map((p) => p.largest_use))

type RowProps = {
  id: string
  number: number
  count: number
  top: number
  scene: Scene
  mark?: string
  lasts: number
  hold: number
  chosen: boolean
  tabbable: boolean
  soft: number
  passing: Passing
  project: string
  aspect: number
  dragged: boolean
  drags: RefObject<ReturnType<typeof useReorder>>
}

/** How the sheet goes past: at rest (or nearly), faster than pictures could come, or faster than anyone reads. */
type Passing = 'rest' | 'fast' | 'flying'

function usePassing(scrolling: boolean, offset: number): Passing {
  const before = useRef<{ offset: number; at: number; passing: Passing }>({ offset, at: 0, passing: 'rest' })
  const now = performance.now()
  const { offset: from, at } = before.current
  if (!scrolling) before.current = { offset, at: now, passing: 'rest' }
  else if (offset !== from) {
    const speed = Math.abs(offset - from) / Math.max(now - at, 1)
    before.current = { offset, at: now, passing: speed > FLYING_PX_PER_MS ? 'flying' : speed > FAST_PX_PER_MS ? 'fast' : 'rest' }
  }
  return before.current.passing
}

/** A scene of the sheet; what only flies past is its name, and its pictures are never asked for. */
const Row = memo(function Row(props: RowProps) {
  const drawn = useFirstPicture((s) => s.drawn)
  const seen = useRef({ row: false, pictures: false })
  seen.current = { row: seen.current.row || props.passing !== 'flying', pictures: seen.current.pictures || (drawn && props.passing === 'rest') }
  if (seen.current.row) return <SceneRow {...props} mark={seen.current.pictures ? props.mark : undefined} />
  return (
    <li aria-posinset={props.number} aria-setsize={props.count} style={{ top: props.top }} className="absolute inset-x-0 px-2 pt-9 font-semibold">
      {props.number} {props.scene.name}
    </li>
  )
})

function SceneRow({ id, number, count, top, scene, mark, lasts, hold, chosen, tabbable, soft, project, aspect, dragged, drags }: RowProps) {
  const photos = Object.values(scene.layers ?? {}).filter((l) => l.kind === 'photo').length
  return (
    <li data-row={id} aria-posinset={number} aria-setsize={count} style={{ top, opacity: dragged ? 0.45 : 1 }} className="absolute inset-x-0">
      {number > 1 && <JoinLine place={{ at: 'scene', scene: id }} own={scene.join ?? null} lasts={lasts} />}
      <div className={`group relative rounded-xl ${chosen ? 'border border-brass/60 bg-card shadow-sm' : 'border border-transparent hover:bg-deep'}`}>
        <button
          {...drags.current?.handle(id)}
          type="button"
          data-scene={id}
          tabIndex={tabbable ? 0 : -1}
          aria-pressed={chosen}
          onClick={(e) => !drags.current?.wasDrag() && click(id, e)}
          className="grid w-full grid-cols-[20px_1fr] gap-x-1 rounded-xl px-2 py-2 text-left focus-visible:-outline-offset-2"
        >
          <span className="pt-0.5 font-mono text-[11px] text-soft">
            <span className="sr-only">Scene </span>
            {number}
          </span>
          <span className="min-w-0">
            <span className="grid grid-cols-[1fr_16px_1fr] items-center gap-1">
              <End project={project} scene={id} which="opening" mark={mark} aspect={aspect} />
              <span aria-hidden="true" className="text-center text-[11px] text-soft">
                →
              </span>
              <End project={project} scene={id} which="closing" mark={mark} aspect={aspect} />
            </span>
            <span className="mt-1 block truncate font-semibold">{scene.name || 'Scene'}</span>
            <span className="block text-[12px] text-soft">
              <span className="font-mono text-ink">{toSeconds(hold).toFixed(1)}s</span> hold
              {scene.speed !== undefined && scene.speed !== 1 ? ` · ${scene.speed.toFixed(2).replace(/\.?0+$/, '')}×` : scene.hold == null ? '' : ' · own'} · {photos} photo{photos === 1 ? '' : 's'}
              {soft > 0 && <span className="ml-1.5 font-semibold text-rowan">soft {soft.toFixed(1)}×</span>}
            </span>
          </span>
        </button>
      </div>
    </li>
  )
}

function End({ project, scene, which, mark, aspect }: { project: string; scene: string; which: 'opening' | 'closing'; mark?: string; aspect: number }) {
  return (
    <span className="relative grid h-[52px] place-items-center overflow-hidden rounded-[3px] bg-surround">
      {mark && <Painted src={address.end(project, scene, which, mark)} alt="" style={{ aspectRatio: aspect }} className="max-h-[52px] max-w-full" />}
      <span aria-hidden="true" className={`absolute bottom-1 left-1 size-[7px] rounded-full ${which === 'opening' ? 'bg-glow' : 'border-[1.5px] border-water'}`} />
    </span>
  )
}
