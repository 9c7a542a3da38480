import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { client, type ExportRequest, type Filling, settled } from '@/api/client'
import { Exports, LIVE } from '@/features/export'
import { catalogue } from '@/project/catalogue'
import { useProject } from '@/project/project'
import { even } from '@/project/shapes'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { say } from '@/ui/notices'
import type { Step } from './steps'
import { pictured } from './told'
import { Watch } from './watch'

const EVERY_MS = 700
const KIND = 'mp4'
const QUALITY = 'good'

/** The film is watched, and taken along. */
export function ExportStep({ filling, onStep }: { filling: Filling; onStep: (step: Step) => void }) {
  const id = useProject((s) => s.id)
  const frame = useProject((s) => s.document.frame)
  const length = useProject((s) => s.timeline.length)
  const title = useProject((s) => s.document.title)
  const queries = useQueryClient()
  const own = Math.min(frame?.width ?? 1080, frame?.height ?? 1080)
  const small = Math.min(...catalogue().sizes.map(([, s]) => s))
  const [size, setSize] = useState<'own' | 'small'>('own')
  const [busy, setBusy] = useState(false)
  const path = { params: { path: { project: id } } }
  const { data: jobs } = useQuery({
    queryKey: ['exports', id],
    queryFn: () => settled(client.GET('/api/projects/{project}/exports', path)),
    refetchInterval: (q) => (q.state.data?.exports.some((e) => LIVE.includes(e.state)) ? EVERY_MS : false),
  })
  const attempt = async (what: () => Promise<unknown>) => {
    setBusy(true)
    try {
      await what()
    } catch (e) {
      say((e as Error).message, 'fault')
    }
    setBusy(false)
    await queries.invalidateQueries({ queryKey: ['exports', id] })
  }
  const start = () => {
    const share = size === 'small' ? Math.min(1, small / own) : 1
    const body: ExportRequest = {
      kind: KIND,
      width: even((frame?.width ?? 1920) * share),
      height: even((frame?.height ?? 1080) * share),
      rate: frame?.rate ?? '30',
      quality: QUALITY,
      dither: 'spread',
      repeat: false,
      transparent: false,
      start: 0,
      end: null,
    }
    return attempt(() => settled(client.POST('/api/projects/{project}/exports', { ...path, body })))
  }
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
          <Choice
            label="Size of the file"
            value={size}
            choices={[
              ['own', 'Best quality'],
              ['small', 'Small, to send'],
            ]}
            onSet={setSize}
          />
        </div>
        <Button kind="strong" className="mt-3 !h-12 w-full text-[16px]" disabled={busy || length === 0} onClick={() => void start()}>
          Export the film
        </Button>
        <Exports jobs={jobs?.exports} onDo={attempt} />
      </section>
    </div>
  )
}
