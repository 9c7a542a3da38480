import { Table2 } from 'lucide-react'
import { Link } from 'react-router'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { client, type Filling, settled } from '@/api/client'
import { Exports, LIVE } from '@/features/export'
import { filmRequest, FilmSize, type SizeChoice } from '@/project/film-request'
import { tableAddress } from '@/project/places'
import { useProject } from '@/project/project'
import { Button } from '@/ui/button'
import { useDoing } from '@/ui/doing'
import type { Step } from './steps'
import { pictured } from './told'
import { Watch } from './watch'

const EVERY_MS = 700

/** The film is watched, and taken along. */
export function ExportStep({ filling, onStep }: { filling: Filling; onStep: (step: Step) => void }) {
  const id = useProject((s) => s.id)
  const frame = useProject((s) => s.document.frame)
  const length = useProject((s) => s.timeline.length)
  const title = useProject((s) => s.document.title)
  const queries = useQueryClient()
  const [size, setSize] = useState<SizeChoice>('own')
  const path = { params: { path: { project: id } } }
  const { data: jobs } = useQuery({
    queryKey: ['exports', id],
    queryFn: () => settled(client.GET('/api/projects/{project}/exports', path)),
    refetchInterval: (q) => (q.state.data?.exports.some((e) => LIVE.includes(e.state)) ? EVERY_MS : false),
  })
  const { busy, doing } = useDoing(() => queries.invalidateQueries({ queryKey: ['exports', id] }))
  const start = () => doing(() => settled(client.POST('/api/projects/{project}/exports', { ...path, body: filmRequest(frame, size) })))
  const empty = filling.zones.filter((z) => pictured(z) && z.required && z.held === null).length
  return (
    <div className="mx-auto flex max-w-[1300px] flex-col gap-5 p-4 lg:flex-row max-sm:p-2">
      <div className="min-w-0 flex-1">
        <Watch />
      </div>
      <section aria-label="Export" className="shrink-0 lg:w-[380px]">
        <h1 className="font-heading text-[24px] font-semibold">{title}</h1>
        {empty > 0 && (
          <p role="status" className="mt-3 rounded-xl bg-deep px-3 py-2">
            {empty === 1 ? 'One place shows a number instead of a picture.' : `${empty} places show a number instead of a picture.`}{' '}
            <Button kind="link" onClick={() => onStep('add')}>
              Fill {empty === 1 ? 'it' : 'them'}
            </Button>
          </p>
        )}
        <div className="mt-4">
          <FilmSize value={size} onSet={setSize} />
        </div>
        <Button kind="strong" className="mt-3 !h-12 w-full text-[16px]" disabled={busy || length === 0} onClick={() => void start()}>
          Export the film
        </Button>
        <Link to={tableAddress(id)} className="mt-3 inline-flex items-center gap-1.5 text-tarn hover:underline">
          <Table2 size={15} /> Many at once, one for each row of a table…
        </Link>
        <Exports jobs={jobs?.exports} onDo={doing} />
      </section>
    </div>
  )
}
