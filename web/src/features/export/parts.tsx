import { address, type Estimate as Estimated } from '@/api/client'
import { control } from '@/project/controls'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { bytesText } from '@/project/times'
import { Button } from '@/ui/button'
import { NumberField } from '@/ui/number'

type Stretch = readonly [number, number]

/** From one moment of the film to another. */
export function StretchFields({ stretch, onSet }: { stretch: Stretch; onSet: (stretch: Stretch) => void }) {
  const timeline = useProject((s) => s.timeline)
  const playhead = useSession((s) => s.playhead)
  return (
    <div className="col-start-2">
      <NumberField {...control('stretch.start')} value={stretch[0]} maximum={timeline.length} usual={[0, timeline.length]} onSet={(v) => onSet([v, Math.max(stretch[1], v)])} />
      <NumberField {...control('stretch.end')} value={stretch[1]} maximum={timeline.length} usual={[0, timeline.length]} onSet={(v) => onSet([Math.min(stretch[0], v), v])} />
      <div className="mt-1 flex gap-1.5">
        <Button size="small" onClick={() => onSet([Math.round(playhead), Math.max(stretch[1], Math.round(playhead))])}>
          From playhead
        </Button>
        <Button size="small" onClick={() => onSet([Math.min(stretch[0], Math.round(playhead)), Math.round(playhead)])}>
          To playhead
        </Button>
      </div>
    </div>
  )
}

/** What an export will come to, or why it cannot be. */
export function Estimate({ estimate, error, empty, length }: { estimate: Estimated | undefined; error: Error | null; empty: boolean; length: string }) {
  const project = useProject((s) => s.id)
  const revision = useProject((s) => s.revision)
  return (
    <div className="mt-4 rounded-xl bg-deep px-4 py-3">
      {error ? (
        <p role="alert" className="text-rowan">
          {error.message}
        </p>
      ) : empty ? (
        <p>There is nothing to export yet: put a scene into the film first.</p>
      ) : (
        <div className="flex items-start gap-3">
          <img src={address.poster(project, String(revision))} alt="The film’s poster" className="max-h-16 w-20 shrink-0 rounded object-contain" />
          <p data-testid="estimate" className="min-w-0">
            <span className="font-semibold">{estimate?.file_name ?? '…'}</span>
            <br />
            <span className="text-soft">{estimate ? `${length}, about ${bytesText(estimate.bytes)}` : 'Working it out…'}</span>
            {estimate?.notes.map((note) => (
              <span key={note} className="mt-1 block text-[12px]">
                {note}
              </span>
            ))}
          </p>
        </div>
      )}
    </div>
  )
}
