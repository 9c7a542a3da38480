import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { Download, Trash2, X } from 'lucide-react'
import { useState } from 'react'
import { address, client, type ExportJob, type ExportRequest, settled } from '@/api/client'
import { catalogue, useProject } from '@/project/store'
import { bytesText, spanText } from '@/project/times'
import { Button, IconButton } from '@/ui/button'
import { Select } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { say } from '@/ui/notices'

const EVERY_MS = 700
const LIVE = ['waiting', 'rendering', 'joining']
const STATES: Record<ExportJob['state'], string> = { waiting: 'waiting for a worker', rendering: 'rendering', joining: 'joining the parts', done: 'done', failed: 'failed', cancelled: 'cancelled' }

const even = (v: number) => 2 * Math.round(v / 2)

/** Size, rate and quality of the film; what it will come to; and the exports on their way. */
export function ExportPanel({ onClose }: { onClose: () => void }) {
  const id = useProject((s) => s.id)
  const frame = useProject((s) => s.document.frame)
  const revision = useProject((s) => s.revision)
  const timeline = useProject((s) => s.timeline)
  const chosen = useProject((s) => s.chosenScenes)
  const queries = useQueryClient()
  const aspect = (frame?.width ?? 16) / (frame?.height ?? 9)
  const own = Math.min(frame?.width ?? 1080, frame?.height ?? 1080)
  const [shorter, setShorter] = useState(own)
  const [rate, setRate] = useState(frame?.rate ?? '30')
  const [quality, setQuality] = useState('good')
  const [part, setPart] = useState<'film' | 'chosen'>('film')
  const [busy, setBusy] = useState(false)

  const sizes = [...new Set([...catalogue().sizes.map(([, s]) => s), own])].sort((a, b) => a - b)
  const pixels = (s: number) => (s === own ? { width: frame?.width ?? 0, height: frame?.height ?? 0 } : aspect >= 1 ? { width: even(s * aspect), height: even(s) } : { width: even(s), height: even(s / aspect) })
  const spans = timeline.spans.filter((s) => chosen.includes(s.scene))
  const range = part === 'chosen' && spans.length ? { start: Math.min(...spans.map((s) => s.join_start)), end: Math.max(...spans.map((s) => s.end)) } : { start: 0, end: null }
  const request: ExportRequest = { ...pixels(shorter), rate, quality, ...range }
  const path = { params: { path: { project: id } } }

  const { data: estimate, error } = useQuery({
    queryKey: ['estimate', id, revision, request],
    queryFn: () => settled(client.POST('/api/projects/{project}/exports/estimate', { ...path, body: request })),
    placeholderData: keepPreviousData,
  })
  const { data: jobs } = useQuery({
    queryKey: ['exports', id],
    queryFn: () => settled(client.GET('/api/projects/{project}/exports', path)),
    refetchInterval: (q) => (q.state.data?.exports.some((e) => LIVE.includes(e.state)) ? EVERY_MS : false),
  })
  const again = () => queries.invalidateQueries({ queryKey: ['exports', id] })
  const attempt = async (what: () => Promise<unknown>) => {
    setBusy(true)
    try {
      await what()
    } catch (e) {
      say((e as Error).message, 'fault')
    }
    setBusy(false)
    await again()
  }
  const empty = timeline.frames === 0
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} side title="Export" description="An MP4 (H.264) named after the project. It goes on when you close this page.">
      <div className="grid grid-cols-[110px_1fr] items-center gap-x-4 gap-y-2.5">
        <label htmlFor="export-size">Size</label>
        <Select id="export-size" label="Size" value={String(shorter)} choices={sizes.map((s) => [String(s), `${pixels(s).width} × ${pixels(s).height}${s === own ? ' (the project’s)' : ''}`] as const)} onSet={(v) => setShorter(Number(v))} />
        <label htmlFor="export-rate">Frames a second</label>
        <Select id="export-rate" label="Frames a second" value={rate} choices={catalogue().rates.map((r) => [r.label, r.label] as const)} onSet={setRate} />
        <label htmlFor="export-quality">Quality</label>
        <Select id="export-quality" label="Quality" value={quality} choices={catalogue().qualities.map((q) => [q.id, `${q.label}: ${q.help.toLowerCase()}`] as const)} onSet={setQuality} />
        <label htmlFor="export-part">What</label>
        <Select id="export-part" label="What" value={part} choices={[['film', 'The whole film'], ['chosen', `The chosen scene${chosen.length === 1 ? '' : `s (${chosen.length})`}`]]} onSet={(v) => setPart(v as 'film' | 'chosen')} />
      </div>
      <div className="mt-4 rounded-xl bg-deep px-4 py-3">
        {error ? (
          <p role="alert" className="text-rowan">{error.message}</p>
        ) : empty ? (
          <p>There is nothing to export yet: put a scene into the film first.</p>
        ) : (
          <p data-testid="estimate">
            <span className="font-semibold">{estimate?.file_name ?? '…'}</span>
            <br />
            <span className="text-soft">{estimate ? `${spanText(estimate.length_seconds)}, ${estimate.frames} frames, about ${bytesText(estimate.bytes)}` : 'Working it out…'}</span>
          </p>
        )}
      </div>
      <Button kind="strong" className="mt-4 !h-10 w-full" disabled={empty || busy} onClick={() => void attempt(() => settled(client.POST('/api/projects/{project}/exports', { ...path, body: request })))}>
        Export the film
      </Button>
      <h3 className="mb-2 mt-7 font-heading text-[15px] font-semibold">Exports of this project</h3>
      <ul className="space-y-2.5" aria-label="Exports">
        {jobs?.exports.map((job) => (
          <Job key={job.id} job={job} onCancel={() => void attempt(() => settled(client.POST('/api/exports/{export}/cancel', { params: { path: { export: job.id } } })))} onForget={() => void attempt(() => settled(client.DELETE('/api/exports/{export}', { params: { path: { export: job.id } } })))} />
        ))}
        {jobs && !jobs.exports.length && <li className="text-soft">None yet.</li>}
      </ul>
    </Dialog>
  )
}

function Job({ job, onCancel, onForget }: { job: ExportJob; onCancel: () => void; onForget: () => void }) {
  const live = LIVE.includes(job.state)
  const share = job.frames ? job.done_frames / job.frames : 0
  const size = job.settings as { width: number; height: number; rate: string; quality: string }
  return (
    <li className="rounded-xl border hairline bg-card px-3.5 py-3" aria-label={`${job.file_name}, ${STATES[job.state]}`}>
      <div className="flex items-start justify-between gap-2">
        <div className="min-w-0">
          <p className="truncate font-medium">{job.file_name}</p>
          <p className="text-[12px] text-soft">
            {size.width} × {size.height} · {size.rate} · {size.quality} · <span className={job.state === 'failed' ? 'text-rowan' : ''}>{STATES[job.state]}</span>
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
          <div role="progressbar" aria-label={`Export of ${job.file_name}`} aria-valuenow={Math.round(share * 100)} aria-valuemin={0} aria-valuemax={100} className="mt-2 h-1.5 overflow-hidden rounded-full bg-rule">
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
