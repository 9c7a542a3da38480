import { SplitSquareHorizontal } from 'lucide-react'
import { useRef, useState } from 'react'
import type { Edit } from '@/api/client'
import { useSlide } from '@/interaction/drag'
import { useDeveloped } from './developed'

/** The corrected picture; before and after by holding a button, or split by a line that is dragged. */
export function LightStage({ id, url, name, corrected }: { id: string; url: string | null; name: string; corrected: boolean }) {
  const [split, setSplit] = useState<number | null>(null)
  const [held, setHeld] = useState(false)
  const plain: Edit[] = [{ edit: 'set_pictures', ids: [id], correction: null }]
  const before = useDeveloped(id, plain, false)
  const stage = useRef<HTMLDivElement>(null)
  const slide = useSlide({
    onSlide: ([x]) => {
      const box = stage.current?.getBoundingClientRect()
      if (box) setSplit(Math.min(1, Math.max(0, (x - box.left) / box.width)))
    },
  })
  if (!url) return <span className="text-ash">…</span>
  return (
    <div className="relative max-h-full max-w-full p-3">
      <div className={`relative ${split === null ? '' : 'cursor-ew-resize touch-none'}`} ref={stage} {...(split !== null && slide)}>
        <img src={held && before.url ? before.url : url} alt={held ? `${name} before` : name} draggable={false} className="block max-h-[calc(62vh-24px)] max-w-full object-contain" />
        {split !== null && before.url && (
          <>
            <img
              src={before.url}
              alt={`${name} before, left of the line`}
              draggable={false}
              className="absolute inset-0 h-full w-full object-fill"
              style={{ clipPath: `inset(0 ${(1 - split) * 100}% 0 0)` }}
            />
            <div
              role="slider"
              tabIndex={0}
              aria-label="Line between before and after"
              aria-valuemin={0}
              aria-valuemax={100}
              aria-valuenow={Math.round(split * 100)}
              onKeyDown={(e) => {
                const way = e.key === 'ArrowLeft' ? -0.02 : e.key === 'ArrowRight' ? 0.02 : 0
                if (way) {
                  e.preventDefault()
                  e.stopPropagation()
                  setSplit(Math.min(1, Math.max(0, split + way)))
                }
              }}
              className="absolute inset-y-0 w-[3px] -translate-x-1/2 bg-white shadow"
              style={{ left: `${split * 100}%` }}
            />
            <span className="absolute left-2 top-2 rounded bg-black/60 px-2 text-[12px] text-white">before</span>
            <span className="absolute right-2 top-2 rounded bg-black/60 px-2 text-[12px] text-white">after</span>
          </>
        )}
      </div>
      {corrected && (
        <div className="absolute bottom-5 left-1/2 flex -translate-x-1/2 gap-1.5 rounded-full bg-black/60 p-1 text-white">
          <button
            type="button"
            onPointerDown={() => setHeld(true)}
            onPointerUp={() => setHeld(false)}
            onPointerLeave={() => setHeld(false)}
            onKeyDown={(e) => e.key === 'Enter' && setHeld(true)}
            onKeyUp={() => setHeld(false)}
            className="h-7 whitespace-nowrap rounded-full px-3 hover:bg-white/15"
          >
            Hold for before
          </button>
          <button
            type="button"
            aria-pressed={split !== null}
            onClick={() => setSplit(split === null ? 0.5 : null)}
            className={`flex h-7 items-center gap-1.5 rounded-full px-3 ${split === null ? 'hover:bg-white/15' : 'bg-glow text-night'}`}
          >
            <SplitSquareHorizontal size={14} /> Split
          </button>
        </div>
      )}
    </div>
  )
}
