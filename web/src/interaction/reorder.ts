import { type PointerEvent, type RefObject, useRef, useState } from 'react'
import { useDrag } from './drag'

/** Rows that are being dragged, and where they will go: before a row (null: to the end), at a height in the list's own pixels. */
export type Reordering = { ids: string[]; before: string | null; y: number }

type Row = { id: string; top: number; bottom: number }

/** The gap nearest to a height among rows that lie under one another: the row after it (null: none), and where it lies. */
export function gapBetween(rows: Row[], y: number): { before: string | null; y: number } {
  const next = rows.find((r) => y < (r.top + r.bottom) / 2)
  return { before: next?.id ?? null, y: next?.top ?? rows.at(-1)?.bottom ?? 0 }
}

const EDGE_PX = 32
const SCROLL_PX = 14

type Options = {
  list: RefObject<HTMLElement | null>
  /** All rows in their order; those in the page carry `data-row`. */
  order: string[]
  /** What moves if this row is dragged. */
  moving: (id: string) => string[]
  onMove: (ids: string[], before: string | null) => void
}

/** Rows of a list that are dragged to another place, several at once. A press that goes nowhere stays a click. */
export function useReorder({ list, order, moving, onMove }: Options) {
  const [drag, setDrag] = useState<Reordering | null>(null)
  const moved = useRef(false)
  const gap = (y: number): { before: string | null; y: number } => {
    const top = list.current?.getBoundingClientRect().top ?? 0
    const rows = [...(list.current?.querySelectorAll<HTMLElement>('[data-row]') ?? [])]
      .map((row) => ({ id: row.dataset.row ?? '', top: row.getBoundingClientRect().top - top, bottom: row.getBoundingClientRect().bottom - top }))
      .sort((a, b) => a.top - b.top)
    const found = gapBetween(rows, y - top)
    // Rows far away are not in the page: what follows the last that is.
    return found.before === null ? { ...found, before: order[order.indexOf(rows.at(-1)?.id ?? '') + 1] ?? null } : found
  }
  const at = (id: string, y: number): Reordering => ({ ids: moving(id), ...gap(y) })
  const bind = useDrag<string>({
    onPress: () => {
      moved.current = false
    },
    onTry: (id, _, now) => {
      const scroller = list.current?.closest<HTMLElement>('[data-scroller]')
      const edge = scroller?.getBoundingClientRect()
      if (scroller && edge) scroller.scrollTop += now[1] < edge.top + EDGE_PX ? -SCROLL_PX : now[1] > edge.bottom - EDGE_PX ? SCROLL_PX : 0
      setDrag(at(id, now[1]))
    },
    onSet: (id, _, now) => {
      const { ids, before } = at(id, now[1])
      setDrag(null)
      const rest = order.filter((k) => !ids.includes(k))
      const place = before === null ? rest.length : rest.indexOf(order.slice(order.indexOf(before)).find((k) => !ids.includes(k)) ?? '')
      const after = [...rest]
      after.splice(place < 0 ? rest.length : place, 0, ...order.filter((k) => ids.includes(k)))
      moved.current = after.join() !== order.join()
      if (moved.current) onMove(ids, before)
    },
    onGiveUp: () => {
      moved.current = true
      setDrag(null)
    },
  })
  /** For each row's handle; what stands behind it is not dragged. */
  const handle = (id: string) => bind(id) as { onPointerDown: (event: PointerEvent) => void }
  return { drag, handle, /** Whether the press that ends now was a drag rather than a click. */ wasDrag: () => moved.current }
}
