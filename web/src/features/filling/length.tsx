import { Minus, Plus } from 'lucide-react'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { spanText, toSeconds } from '@/project/times'
import { Button } from '@/ui/button'

const STEP = 1.15

/** How long the film is: a little shorter or longer, all scenes alike; or as long as its music. */
export function Length() {
  const timeline = useProject((s) => s.timeline)
  const songs = useProject((s) => Object.keys(s.document.songs ?? {}).length)
  const ids = timeline.spans.map((s) => s.scene)
  const scale = (factor: number) => void edit({ edit: 'scale_holds', ids, factor })
  return (
    <>
      <div className="flex items-center gap-3">
        <Button className="!h-11 flex-1" onClick={() => scale(1 / STEP)}>
          <Minus size={16} /> Shorter
        </Button>
        <output aria-label="Length of the film" className="min-w-20 text-center font-mono text-[16px]">
          {spanText(toSeconds(timeline.length))}
        </output>
        <Button className="!h-11 flex-1" onClick={() => scale(STEP)}>
          <Plus size={16} /> Longer
        </Button>
      </div>
      {songs > 0 && (
        <Button className="mt-2 !h-11 w-full" onClick={() => void edit({ edit: 'fit_film' })}>
          As long as the music
        </Button>
      )}
    </>
  )
}
