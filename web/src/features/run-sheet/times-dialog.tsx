import { control } from '@/project/controls'
import { useState } from 'react'
import type { Edit } from '@/api/client'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { clockText, toSeconds, toTicks } from '@/project/times'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { NumberField } from '@/ui/number'

/** Times of many scenes at once: the film to a length or its music, all alike, longer or shorter, the other way round. */
export function TimesDialog({ onClose }: { onClose: () => void }) {
  const chosen = useSession((s) => s.chosenScenes)
  const count = useProject((s) => s.timeline.spans.length)
  const length = useProject((s) => s.timeline.length)
  const music = useProject((s) => Object.keys(s.document.songs ?? {}).length > 0)
  const all = useProject((s) => s.timeline.spans)
  const [reach, setReach] = useState(chosen.length > 1 ? 'chosen' : 'all')
  const [wished, setWished] = useState(toTicks(Math.round(toSeconds(length))))
  const [shortest, setShortest] = useState(toTicks(1))
  const [factor, setFactor] = useState(1)
  const ids = reach === 'all' ? all.map((s) => s.scene) : chosen
  const run = (e: Edit) => {
    onClose()
    void edit(e)
  }
  const fitted = (more: Record<string, unknown>) => run({ edit: 'fit_film', ids: reach === 'all' ? null : chosen, shortest, ...more })
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Times" description={`The film lasts ${clockText(length)}. Entrances, exits and joins keep their lengths; holds make room.`}>
      {chosen.length > 1 && (
        <div className="mb-3">
          <Choice
            label="For"
            value={reach}
            choices={[
              ['chosen', `The ${chosen.length} chosen`],
              ['all', `All ${count} scenes`],
            ]}
            onSet={setReach}
          />
        </div>
      )}
      <section aria-label="Total length" className="border-t hairline py-3">
        <h3 className="mb-1 font-heading text-[15px] font-semibold">Total length</h3>
        <NumberField {...control('film.length')} value={wished} onSet={setWished} />
        <NumberField {...control('film.shortest')} value={shortest} onSet={setShortest} />
        <div className="mt-2 flex flex-wrap gap-1.5">
          <Button onClick={() => fitted({ length: wished })}>Fit, each its share</Button>
          <Button onClick={() => fitted({ length: wished, evenly: true })}>Spread evenly</Button>
          {music && <Button onClick={() => fitted({})}>End with the music</Button>}
        </div>
      </section>
      <section aria-label="Longer or shorter" className="border-t hairline py-3">
        <h3 className="mb-1 font-heading text-[15px] font-semibold">Longer or shorter</h3>
        <NumberField {...control('holds.factor')} value={factor} onSet={setFactor} />
        <Button className="mt-2" disabled={factor === 1} onClick={() => run({ edit: 'scale_holds', ids, factor })}>
          Scale the holds
        </Button>
      </section>
      <section aria-label="Order" className="border-t hairline pt-3">
        <Button onClick={() => run({ edit: 'reverse_scenes', ids })}>Reverse the order of {ids.length} scenes</Button>
      </section>
    </Dialog>
  )
}
