import { X } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { useSlide } from '@/interaction/drag'
import { address } from '@/api/client'
import { useProject } from '@/project/project'
import { compareWith, useSession } from '@/project/session'
import type { Box } from '@/interaction/placing'

const REST_MS = 70
const STEP = 0.02

/** A named version laid over the film, up to a line that is dragged: the same moment of the same scene, as it was then and as it is now. */
export function Compare({ box }: { box: Box }) {
  const compared = useSession((s) => s.compared)
  const project = useProject((s) => s.id)
  const playhead = useSession((s) => s.playhead)
  const timeline = useProject((s) => s.timeline)
  const [share, setShare] = useState(0.5)
  const [source, setSource] = useState('')
  const span = timeline.spans.findLast((s) => s.join_start <= playhead)
  const scene = span?.scene
  const moment = span ? (playhead - span.join_start) / Math.max(1, span.end - span.join_start) : 0
  const version = compared?.id
  useEffect(() => {
    if (!version || !scene) return
    const timer = setTimeout(() => setSource(address.version(project, version, scene, moment)), REST_MS)
    return () => clearTimeout(timer)
  }, [project, version, scene, moment])
  const frame = useRef<HTMLFieldSetElement>(null)
  const from = useRef(share)
  const slide = useSlide({
    onStart: () => {
      from.current = share
    },
    onSlide: ([x]) => {
      const rect = frame.current?.getBoundingClientRect()
      if (rect) setShare(Math.min(1, Math.max(0, (x - rect.left) / rect.width)))
    },
    onGiveUp: () => setShare(from.current),
  })
  if (!compared) return null
  const label = 'absolute bottom-2 max-w-[45%] truncate rounded-full bg-black/65 px-2.5 py-0.5 text-[12px] text-white'
  return (
    <fieldset ref={frame} aria-label={`Compared with “${compared.name}”`} className="absolute overflow-hidden" style={{ left: box.left, top: box.top, width: box.width, height: box.height }}>
      {source && (
        <img
          src={source}
          alt={`The same moment in “${compared.name}”`}
          draggable={false}
          className="pointer-events-none absolute inset-0 size-full"
          style={{ clipPath: `inset(0 ${(1 - share) * 100}% 0 0)` }}
        />
      )}
      <span className={`${label} left-2`}>{compared.name}</span>
      <span className={`${label} right-2`}>now</span>
      <button type="button" aria-label="End comparing" onClick={() => compareWith(null)} className="absolute right-2 top-2 grid size-7 place-items-center rounded-full bg-black/65 text-white">
        <X size={15} />
      </button>
      <div
        role="slider"
        tabIndex={0}
        aria-label="Line between then and now"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(share * 100)}
        {...slide}
        onKeyDown={(e) => {
          const way = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0
          if (!way) return
          e.preventDefault()
          e.stopPropagation()
          setShare(Math.min(1, Math.max(0, share + way * STEP * (e.shiftKey ? 5 : 1))))
        }}
        className="absolute inset-y-0 -ml-2.5 w-5 cursor-ew-resize touch-none"
        style={{ left: `${share * 100}%` }}
      >
        <span className="absolute inset-y-0 left-1/2 w-0.5 -translate-x-1/2 bg-white shadow-[0_0_3px_#000]" />
        <span className="absolute left-1/2 top-1/2 size-4 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-white bg-black/60" />
      </div>
    </fieldset>
  )
}
