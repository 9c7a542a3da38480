import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Archive, Download, Square, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { address, client, type FilmBatch, type FilmTable, settled } from '@/api/client'
import { useProject } from '@/project/project'
import { filmRequest, FilmSize, type SizeChoice } from '@/project/film-request'
import { bytesText } from '@/project/times'
import { Button, IconButton } from '@/ui/button'
import { useDoing } from '@/ui/doing'

const EVERY_MS = 1000

/** The films are asked for, and what became of those that were. */
export function Films({ table }: { table: FilmTable }) {
  const project = useProject((s) => s.id)
  const frame = useProject((s) => s.document.frame)
  const queries = useQueryClient()
  const [size, setSize] = useState<SizeChoice>('own')
  const path = { params: { path: { project } } }
  const key = ['table-films', project]
  const { data } = useQuery({
    queryKey: key,
    queryFn: () => settled(client.GET('/api/projects/{project}/table/films', path)),
    refetchInterval: (q) => (q.state.data?.batches.some((b) => b.live) ? EVERY_MS : false),
  })
  const { busy, doing } = useDoing(() => queries.invalidateQueries({ queryKey: key }))
  const good = table.rows - table.faulty
  const start = () => doing(() => settled(client.POST('/api/projects/{project}/table/films', { ...path, body: { settings: filmRequest(frame, size), rows: null } })))
  return (
    <section aria-label="The films">
      <div className="flex flex-wrap items-center gap-3">
        <FilmSize value={size} onSet={setSize} />
        <Button kind="strong" className="!h-12 flex-1 text-[16px]" disabled={busy || good === 0} onClick={() => void start()}>
          {good === 1 ? 'Make one film' : `Make ${good} films`}
        </Button>
      </div>
      {table.faulty > 0 && good > 0 && <p className="mt-1 text-soft">The rows that are listed above are left out.</p>}
      <ul aria-label="Films that were asked for" className="mt-3 space-y-3">
        {data?.batches.map((batch) => (
          <Batch
            key={batch.id}
            batch={batch}
            onStop={() => void doing(() => settled(client.POST('/api/batches/{batch}/stop', { params: { path: { batch: batch.id } } })))}
            onRemove={() => void doing(() => settled(client.DELETE('/api/batches/{batch}', { params: { path: { batch: batch.id } } })))}
          />
        ))}
      </ul>
    </section>
  )
}

function Batch({ batch, onStop, onRemove }: { batch: FilmBatch; onStop: () => void; onRemove: () => void }) {
  const share = batch.done / Math.max(batch.total, 1)
  return (
    <li className="rounded-xl border hairline bg-card px-4 py-3">
      <div className="flex items-center gap-2">
        <p className="min-w-0 flex-1 font-medium">
          {batch.done} of {batch.total} films done
          {batch.failed > 0 && <span className="text-rowan">, {batch.failed} could not be made</span>}
        </p>
        {batch.done > 0 && !batch.live && (
          <a href={address.films(batch.id)} download className="inline-flex h-9 items-center gap-1.5 rounded-lg bg-ink px-3 font-medium text-on-ink">
            <Archive size={15} /> All as one file
          </a>
        )}
        {batch.live ? (
          <IconButton label="Stop making these films" onClick={onStop}>
            <Square size={15} />
          </IconButton>
        ) : (
          <IconButton label="Take these films off the list" onClick={onRemove}>
            <Trash2 size={15} />
          </IconButton>
        )}
      </div>
      {batch.live && (
        <div role="progressbar" aria-label="Films done" aria-valuenow={Math.round(share * 100)} aria-valuemin={0} aria-valuemax={100} className="mt-2 h-1.5 overflow-hidden rounded-full bg-rule">
          <div className="h-full bg-brass transition-[width]" style={{ width: `${share * 100}%` }} />
        </div>
      )}
      {batch.message && <p className="mt-1.5 text-rowan">{batch.message}</p>}
      <ul className="mt-2 max-h-60 space-y-0.5 overflow-y-auto">
        {batch.films.map((film) => (
          <li key={film.id} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 truncate">{film.file_name}</span>
            {film.message && <span className="truncate text-[12.5px] text-rowan">{film.message}</span>}
            {film.state === 'done' ? (
              <a href={address.film(film.id)} download aria-label={`Download ${film.file_name}`} className="inline-flex items-center gap-1 text-tarn hover:underline">
                <Download size={14} /> {bytesText(film.bytes)}
              </a>
            ) : (
              <span className="text-[12.5px] text-soft">{film.state === 'rendering' ? `${Math.round((100 * film.done_frames) / Math.max(film.frames, 1))} %` : film.state}</span>
            )}
          </li>
        ))}
      </ul>
    </li>
  )
}
