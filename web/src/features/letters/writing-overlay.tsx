import { type PointerEvent, useEffect, useRef } from 'react'
import type { LayerRef } from '@/api/client'
import { useGeometry } from '@/playback/screen'
import { redo, undo } from '@/project/connection'
import { back, caretOf, chosenOf, lineEnd, placeAt, placeBeside, pointsBefore, seen, unitsBefore, type Written } from './caret'
import { useTyped } from './typed'
import { endWriting, useLetters } from './writing'

type Box = { left: number; top: number; width: number; height: number }
type Props = { writing: LayerRef; box: Box; origin: () => { left: number; top: number }; onClose?: () => void }

/**
 * Writing on the picture. What is seen is the core's own picture; a field that is not seen takes keys, what is pasted and what input methods
 * compose; caret and choice are drawn where the core says that its letters stand.
 */
export function WritingOverlay({ writing, box, origin }: Props) {
  const field = useRef<HTMLTextAreaElement>(null)
  const written = useGeometry((s) => s.geometry.written)
  const { from, to } = useLetters()
  const { value, type, keep } = useTyped(writing)
  const column = useRef<number | null>(null)
  // Until the core has set what was typed last, keys go by the field's own lines.
  const behind = written && written.rows.at(-1)?.[1] !== [...value].length

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

  // biome-ignore lint/correctness/useExhaustiveDependencies: another text, and the keys are for that
  useEffect(() => field.current?.focus({ preventScroll: true }), [writing])

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
    } else if (!written || control || behind) return
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
        {written && <Marks written={written} from={from} to={to} caret={caret} inView={inView} />}
      </svg>
      <textarea
        ref={field}
        aria-label="Text on the picture"
        aria-describedby="writing-help"
        value={value}
        dir="auto"
        spellCheck={false}
        autoComplete="off"
        onChange={(e) => {
          type(e.target.value)
          follow()
        }}
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

type MarksProps = { written: Written; from: number; to: number; caret: [number, number][] | null; inView: (at: [number, number]) => string }

/** What is chosen, and the caret. */
function Marks({ written, from, to, caret, inView }: MarksProps) {
  const quads = from === to ? [] : chosenOf(written, Math.min(from, to), Math.max(from, to))
  return (
    <g pointerEvents="none">
      {quads.map((quad) => (
        <polygon key={quad.join()} points={quad.map(inView).join(' ')} fill="#e2a94a" fillOpacity={0.38} />
      ))}
      {caret && (
        <>
          <polyline points={caret.map(inView).join(' ')} stroke="#14181d" strokeWidth={3.5} strokeOpacity={0.55} fill="none" />
          <polyline data-caret={to} points={caret.map(inView).join(' ')} stroke="#fff" strokeWidth={1.6} fill="none" className="motion-safe:animate-pulse" />
        </>
      )}
    </g>
  )
}

/** The corners of the box around a text's lines, and something beside them, in ems. */
function textArea(written: Written): [number, number][] {
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
