import { useEffect, useState } from 'react'
import type { TemplateFacts } from '@/api/client'
import { TriedFrame } from '@/project/tried-frame'
import { composed } from './making'
import { Painted } from '@/ui/painted'

const TRIED = 'tried'
const TURN_MS = 900
const SEEN_PICTURES = 12
const SHARE = 0.7

type Props = { template: TemplateFacts; project: string | null; pictures: string[]; on: boolean; about?: boolean; onChoose: () => void }

/** A template with one's own pictures in it; while there are none, as it looks empty. Its scenes go by while it is pointed at. */
export function FilmTile({ template, project, pictures, on, about, onChoose }: Props) {
  const [pointed, setPointed] = useState(false)
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onChoose}
      onPointerEnter={(e) => e.pointerType === 'mouse' && setPointed(true)}
      onPointerLeave={() => setPointed(false)}
      className={`w-full rounded-2xl p-2 text-left ${on ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}
    >
      {project && pictures.length ? (
        <Own template={template} pictures={pictures} runs={pointed} />
      ) : (
        <span className="grid aspect-video place-items-center overflow-hidden rounded-xl bg-deep">
          <Painted src={`/api/templates/${template.key}/poster`} alt="" className="h-full w-full object-cover" />
        </span>
      )}
      <span className="mt-1.5 flex items-baseline justify-between gap-2 px-1">
        <span className="truncate font-heading text-[16px] font-semibold">{template.name}</span>
        {on && <span className="shrink-0 text-[12.5px] text-brass">chosen</span>}
      </span>
      {about && <span className="line-clamp-2 px-1 text-[13px] text-soft">{template.about}</span>}
    </button>
  )
}

function Own({ template, pictures, runs }: { template: TemplateFacts; pictures: string[]; runs: boolean }) {
  const last = Math.min(Math.max(template.scenes, 1), 2)
  const [scene, setScene] = useState(last)
  const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches
  useEffect(() => {
    if (!runs || still) return
    const timer = setInterval(() => setScene((n) => (n % last) + 1), TURN_MS)
    return () => clearInterval(timer)
  }, [runs, still, last])
  return <TriedFrame scene={`${TRIED}-1-${scene}`} edits={[composed([template.key], pictures.slice(0, SEEN_PICTURES), TRIED)]} share={SHARE} width={480} alt="" className="!rounded-xl" />
}
