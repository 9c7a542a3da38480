import type { KeyboardEvent } from 'react'
import { chosenAfter, neighbour, typing } from '@/interaction/choosing'
import { INTO_FILM, REMOVE } from './commands'
import { gridOf } from './sheet'
import { choosePictures, openPicture } from './showing'

type Listed = { order: string[]; present: string[]; asList: boolean; movable: boolean }
/** What the keyboard does on the contact sheet: the arrows go through it, with Alt they move what is chosen (`present`). */
export function sheetKeys(event: KeyboardEvent, { order, present, asList, movable }: Listed, move: (ids: string[], before: string | null) => void): void {
  if (typing(event.target) || event.defaultPrevented) return
  const last = present.at(-1)
  const across = gridOf(document.getElementById('sheet')?.querySelector('ul')?.clientWidth ?? 800, asList).columns
  const moves: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -across, ArrowDown: across }
  const way = moves[event.key]
  if (way !== undefined && event.altKey && present.length && movable) {
    const rest = order.filter((k) => !present.includes(k))
    const first = order.indexOf(order.find((k) => present.includes(k)) ?? '')
    const before = rest[Math.max(0, Math.min(rest.length, order.slice(0, first).filter((k) => rest.includes(k)).length + way))]
    move(present, before ?? null)
  } else if (way !== undefined) {
    const next = neighbour(order, last, way)
    if (next) {
      choosePictures(event.shiftKey ? chosenAfter(order, present, next, { toggle: !present.includes(next), range: false }) : [next])
      document.getElementById(`picture-${next}`)?.focus()
    }
  } else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) choosePictures(order)
  else if (event.key === ' ' && last) openPicture(last)
  else if (event.key === 'Enter' && present.length) INTO_FILM.run()
  else if ((event.key === 'Delete' || event.key === 'Backspace') && present.length) REMOVE.run()
  else if (event.key === 'Escape') choosePictures([])
  else return
  event.preventDefault()
}
