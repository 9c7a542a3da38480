import { type PointerEvent, useCallback, useEffect, useRef, useState } from 'react'
import type { LayerRef } from '@/api/client'
import { useGeometry } from '@/playback/screen'
import { edit, redo, undo } from '@/project/connection'
import { useProject } from '@/project/project'
import { tryEdits, useSession } from '@/project/session'
import { back, caretOf, chosenOf, lineEnd, placeAt, placeBeside, pointsBefore, seen, unitsBefore } from './caret'
import { endWriting, textIn, textOf, useLetters } from './writing'

type Box = { left: number; top: number; width: number; height: number }
type Props = { writing: LayerRef; box: Box; origin: () => { left: number; top: number }; onClose?: () => void }

/** What was written is stored when nothing was typed for so long. */
const KEPT_AFTER_MS = 450

/**
 * Writing on the picture. What is seen is the core's own picture; a field that is not seen takes keys, what is pasted and what input methods
 * compose; caret and choice are drawn where the core says that its letters stand.
 */
export function WritingOverlay({ writing, box, origin }: Props) {
  const field = useRef<HTMLTextAreaElement>(null)
  const written = useGeometry((s) => s.geometry.written)
  const { from, to } = useLetters()
  const stored = useProject((s) => textIn(s.document, writing))
  const [value, setValue] = useState(stored)
  const waiting = useRef(0)
  const unsaved = useRef<string | null>(null)
  const column = useRef<number | null>(null)

  const keep = useCallback(async () => {
    clearTimeout(waiting.current)
    const text = unsaved.current
    if (text === null) return
    const done = await edit({ edit: 'set_text', texts: [writing], text })
    if (unsaved.current === text || !done) {
      unsaved.current = null
      tryEdits(null)
      if (!done) setValue(textOf(writing))
    } else if (unsaved.current !== null) {
      // What was typed meanwhile goes on being shown.
      tryEdits([{ edit: 'set_text', texts: [writing], text: unsaved.current }])
    }
  }, [writing])

  // What is changed elsewhere (undone, in another window) is what is written, unless something is being typed.
  useEffect(() => {
    if (unsaved.current === null) setValue(stored)
  }, [stored])

  // Esc ends it wherever the keys are, but in a dialog or another field.
  useEffect(() => {
    const leave = (event: KeyboardEvent) => {
      const into = event.target instanceof HTMLElement && event.target.closest('input, textarea, [role=dialog], [role=menu]')
      if (event.key !== 'Escape' || event.isComposing || (into && into !== field.current)) return
      event.preventDefault()
      event.stopPropagation()
      void keep().then(endWriting)
    }
    window.addEventListener('keydown', leave, true)
    return () => window.removeEventListener('keydown', leave, true)
  }, [keep])

  useEffect(() => {
    const node = field.current
    node?.focus({ preventScroll: true })
    const leaving = () => void keep()
    window.addEventListener('pagehide', leaving)
    return () => {
      window.removeEventListener('pagehide', leaving)
      void keep()
    }
  }, [keep])

  // The field's own selection follows what is chosen.
  useEffect(() => {
    const node = field.current
    if (!node) return
    const [a, b] = [unitsBefore(value, Math.min(from, to)), unitsBefore(value, Math.max(from, to))]
    if (node.selectionStart !== a || node.selectionEnd !== b) node.setSelectionRange(a, b, to < from ? 'backward' : 'forward')
  }, [from, to, value])

  const choose = (next: { from: number; to: number }) => useLetters.setState(next)
  const follow = () => {
    const node = field.current
    if (!node) return
    const [a, b] = [pointsBefore(node.value, node.selectionStart), pointsBefore(node.value, node.selectionEnd)]
    choose(node.selectionDirection === 'backward' ? { from: b, to: a } : { from: a, to: b })
  }
  // The browser says when a selection has changed; other events would tell of it too early.
  useEffect(() => {
    const changed = () => document.activeElement === field.current && follow()
    document.addEventListener('selectionchange', changed)
    return () => document.removeEventListener('selectionchange', changed)
  })
  const type = (text: string) => {
    setValue(text)
    unsaved.current = text
    tryEdits([{ edit: 'set_text', texts: [writing], text }])
    clearTimeout(waiting.current)
    waiting.current = window.setTimeout(() => void keep(), KEPT_AFTER_MS)
    follow()
  }
  const keys = (event: React.KeyboardEvent) => {
    // The command list is there while one writes, too.
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') return
    event.stopPropagation()
    if (event.nativeEvent.isComposing) return
    const extend = event.shiftKey
    const go = (at: number, run: number | null = null) => {
      event.preventDefault()
      column.current = run
      choose({ from: extend ? from : at, to: at })
    }
    const control = event.ctrlKey || event.metaKey
    if (control && event.key.toLowerCase() === 'z') {
      event.preventDefault()
      void keep().then(event.shiftKey ? redo : undo)
    } else if (control && event.key.toLowerCase() === 'y') {
      event.preventDefault()
      void keep().then(redo)
    } else if (!written || control) return
    else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      const run = column.current ?? undefined
      const at = placeBeside(written, to, event.key === 'ArrowUp' ? -1 : 1, run)
      go(at, run ?? alongNow())
    } else if (event.key === 'Home') go(lineEnd(written, to, false))
    else if (event.key === 'End') go(lineEnd(written, to, true))
    else column.current = null
  }
  const alongNow = () => {
    if (!written) return 0
    const [a] = caretOf(written, to)
    const point = seen(back(written.matrix), a)
    return written.column ? point[1] : point[0]
  }
  const placeOf = (event: PointerEvent | React.MouseEvent): number => {
    if (!written) return 0
    const o = origin()
    const at: [number, number] = [(event.clientX - o.left - box.left) / box.width, (event.clientY - o.top - box.top) / box.height]
    return placeAt(written, seen(back(written.matrix), at))
  }
  const press = (event: PointerEvent<SVGElement>) => {
    event.preventDefault()
    event.stopPropagation()
    event.currentTarget.setPointerCapture(event.pointerId)
    const at = placeOf(event)
    choose({ from: event.shiftKey ? from : at, to: at })
    field.current?.focus({ preventScroll: true })
  }
  const drag = (event: PointerEvent<SVGElement>) => {
    if (event.currentTarget.hasPointerCapture(event.pointerId)) choose({ from, to: placeOf(event) })
  }
  const word = (event: React.MouseEvent) => {
    event.stopPropagation()
    const at = unitsBefore(value, placeOf(event))
    for (const piece of new Intl.Segmenter(undefined, { granularity: 'word' }).segment(value))
      if (piece.index <= at && at < piece.index + piece.segment.length) choose({ from: pointsBefore(value, piece.index), to: pointsBefore(value, piece.index + piece.segment.length) })
  }
  const inView = ([x, y]: [number, number]) => `${box.left + x * box.width},${box.top + y * box.height}`
  const caret = written && written.layer === writing.layer ? caretOf(written, to) : null
  const area = written && textArea(written).map((p) => inView(seen(written.matrix, p)))
  return (
    <>
      <svg aria-hidden="true" className="absolute inset-0 h-full w-full">
        {/* Whatever else is pressed ends the writing. */}
        <rect width="100%" height="100%" fill="transparent" onPointerDown={() => void keep().then(endWriting)} />
        {area && (
          <polygon
            points={area.join(' ')}
            fill="transparent"
            stroke="#e2a94a"
            strokeOpacity={0.7}
            strokeDasharray="3 3"
            className="cursor-text"
            onPointerDown={press}
            onPointerMove={drag}
            onDoubleClick={word}
          />
        )}
        {written &&
          from !== to &&
          chosenOf(written, Math.min(from, to), Math.max(from, to)).map((quad) => (
            <polygon key={quad.join()} points={quad.map(inView).join(' ')} fill="#e2a94a" fillOpacity={0.38} pointerEvents="none" />
          ))}
        {caret && (
          <g pointerEvents="none">
            <polyline points={caret.map(inView).join(' ')} stroke="#14181d" strokeWidth={3.5} strokeOpacity={0.55} fill="none" />
            <polyline data-caret={to} points={caret.map(inView).join(' ')} stroke="#fff" strokeWidth={1.6} fill="none" className="motion-safe:animate-pulse" />
          </g>
        )}
      </svg>
      <textarea
        ref={field}
        aria-label="Text on the picture"
        aria-describedby="writing-help"
        value={value}
        dir="auto"
        spellCheck={false}
        autoComplete="off"
        onChange={(e) => type(e.target.value)}
        onKeyDown={keys}
        onKeyUp={(e) => e.stopPropagation()}
        onBlur={() => void keep()}
        // Where an input method shows what it offers.
        style={caret ? { left: box.left + caret[1][0] * box.width, top: box.top + caret[1][1] * box.height } : { left: 0, top: 0 }}
        className="pointer-events-none absolute h-px w-24 resize-none overflow-hidden border-0 bg-transparent p-0 text-transparent caret-transparent opacity-0 outline-none"
      />
      <p id="writing-help" className="pointer-events-none absolute bottom-3 left-1/2 -translate-x-1/2 rounded-full bg-black/60 px-3 py-1 text-[12px] text-chalk">
        Type. Esc, or a press beside it, when you are done{written?.missing ? ` · no face has ${[...written.missing].slice(0, 6).join(' ')}` : ''}
      </p>
    </>
  )
}

/** The corners of the box around a text's lines, and something beside them, in ems. */
function textArea(written: NonNullable<ReturnType<typeof useGeometry.getState>['geometry']['written']>): [number, number][] {
  const room = 0.35
  const begin = Math.min(...written.rows.map((r) => r[5])) - room
  const end = Math.max(...written.rows.map((r) => r[5] + r[6])) + room
  const over = Math.min(...written.rows.map((r) => r[2] - r[3]))
  const under = Math.max(...written.rows.map((r) => r[2] + r[4]))
  return written.column
    ? [
        [over, begin],
        [under, begin],
        [under, end],
        [over, end],
      ]
    : [
        [begin, over],
        [end, over],
        [end, under],
        [begin, under],
      ]
}

/** Whether a text is written now: its tools are there. */
export const useWriting = () => useSession((s) => s.writing)
