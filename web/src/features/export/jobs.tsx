import { Download, Trash2, X } from 'lucide-react'
import { address, type ExportJob, type ExportRequest, client, settled } from '@/api/client'
import { bytesText, spanText } from '@/project/times'
import { IconButton } from '@/ui/button'
import { kindNamed } from './kinds'

export const LIVE = ['waiting', 'rendering', 'joining']
const STATES: Record<ExportJob['state'], string> = { waiting: 'waiting for a worker', rendering: 'rendering', joining: 'joining the parts', done: 'done', failed: 'failed', cancelled: 'cancelled' }

/** One export: where it is, how far, and what can be done with it. */
export function Job({ job, onCancel, onForget }: { job: ExportJob; onCancel: () => void; onForget: () => void }) {
  const live = LIVE.includes(job.state)
  const share = job.frames ? job.done_frames / job.frames : 0
  const made = job.settings as unknown as Required<ExportRequest>
  const kind = kindNamed(made.kind)
  const said = [
    kind.label,
    ...(kind.frames === 'none' ? [] : [`${made.width} × ${made.height}`]),
    ...(kind.frames === 'all' ? [made.rate] : []),
    ...(kind.uses.includes('quality') ? [made.quality] : []),
    ...(made.transparent ? ['see-through'] : []),
  ]
  return (
    <li className="rounded-xl border hairline bg-card px-3.5 py-3" aria-label={`${job.file_name}, ${STATES[job.state]}`}>
      <div className="flex items-start justify-between gap-2">
        <div className="min-w-0">
          <p className="truncate font-medium">{job.file_name}</p>
          <p className="text-[12px] text-soft">
            {said.join(' · ')} · <span className={job.state === 'failed' ? 'text-rowan' : ''}>{STATES[job.state]}</span>
            {job.state === 'done' && ` · ${bytesText(job.bytes)}`}
          </p>
        </div>
        <div className="flex shrink-0">
          {job.state === 'done' && (
            <a href={address.film(job.id)} download className="inline-flex h-8 items-center gap-1.5 rounded-lg bg-ink px-3 font-medium text-on-ink">
              <Download size={14} /> Download
            </a>
          )}
          {live ? (
            <IconButton label={`Cancel the export ${job.file_name}`} onClick={onCancel}>
              <X size={16} />
            </IconButton>
          ) : (
            <IconButton label={`Take ${job.file_name} off the list`} onClick={onForget}>
              <Trash2 size={15} />
            </IconButton>
          )}
        </div>
      </div>
      {live && (
        <>
          <div
            role="progressbar"
            aria-label={`Export of ${job.file_name}`}
            aria-valuenow={Math.round(share * 100)}
            aria-valuemin={0}
            aria-valuemax={100}
            className="mt-2 h-1.5 overflow-hidden rounded-full bg-rule"
          >
            <div className="h-full bg-brass transition-[width]" style={{ width: `${share * 100}%` }} />
          </div>
          <p className="mt-1 text-[12px] text-soft">
            {job.done_frames} of {job.frames} frames{job.seconds_left !== null && ` · about ${spanText(job.seconds_left)} left`}
          </p>
        </>
      )}
      {job.message && <p className="mt-1.5 text-[12px] text-rowan">{job.message}</p>}
    </li>
  )
}

/** The exports of the project, the newest first. `onDo`: does something, and says what went wrong. */
export function Exports({ jobs, onDo }: { jobs: ExportJob[] | undefined; onDo: (what: () => Promise<unknown>) => Promise<void> }) {
  return (
    <>
      <h3 className="mb-2 mt-7 font-heading text-[15px] font-semibold">Exports of this project</h3>
      <ul className="space-y-2.5" aria-label="Exports">
        {jobs?.map((job) => (
          <Job
            key={job.id}
            job={job}
            onCancel={() => void onDo(() => settled(client.POST('/api/exports/{export}/cancel', { params: { path: { export: job.id } } })))}
            onForget={() => void onDo(() => settled(client.DELETE('/api/exports/{export}', { params: { path: { export: job.id } } })))}
          />
        ))}
        {jobs && !jobs.length && <li className="text-soft">None yet.</li>}
      </ul>
    </>
  )
}
