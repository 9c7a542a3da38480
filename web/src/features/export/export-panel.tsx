import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { client, type ExportRequest, settled } from '@/api/client'
import { catalogue } from '@/project/catalogue'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { clockText, spanText } from '@/project/times'
import { Button } from '@/ui/button'
import { Select } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { useDoing } from '@/ui/doing'
import { Exports, LIVE } from './jobs'
import { kindNamed } from './kinds'
import { Estimate, StretchFields } from './parts'

const EVERY_MS = 700
const DITHERS = [
  ['spread', 'Spread: smooth'],
  ['even', 'Even pattern: smaller'],
  ['none', 'None: flat areas'],
] as const

type Part = 'film' | 'chosen' | 'stretch'
const even = (v: number) => 2 * Math.round(v / 2)

/** What kind of file, its size, rate and quality; what it will come to; and the exports on their way. */
export function ExportPanel({ onClose }: { onClose: () => void }) {
  const id = useProject((s) => s.id)
  const frame = useProject((s) => s.document.frame)
  const revision = useProject((s) => s.revision)
  const timeline = useProject((s) => s.timeline)
  const chosen = useSession((s) => s.chosenScenes)
  const playhead = useSession((s) => s.playhead)
  const queries = useQueryClient()
  const aspect = (frame?.width ?? 16) / (frame?.height ?? 9)
  const own = Math.min(frame?.width ?? 1080, frame?.height ?? 1080)
  const projectRate = frame?.rate ?? '30'
  const [kindId, setKindId] = useState('mp4')
  const [shorter, setShorter] = useState(own)
  const [rate, setRate] = useState(projectRate)
  const [quality, setQuality] = useState('good')
  const [dither, setDither] = useState('spread')
  const [repeat, setRepeat] = useState(true)
  const [transparent, setTransparent] = useState(false)
  const [part, setPart] = useState<Part>('film')
  const [stretch, setStretch] = useState<readonly [number, number]>([0, timeline.length])

  const kind = kindNamed(kindId)
  const choose = (next: string) => {
    const spec = kindNamed(next)
    setKindId(next)
    // Small pictures that move are small from the start; going back to a film goes back to the project's size.
    if (spec.shorter_side || kind.shorter_side) setShorter(spec.shorter_side ?? own)
    if (spec.rate || kind.rate) setRate(spec.rate ?? projectRate)
  }
  const sizes = [...new Set([...catalogue().sizes.map(([, s]) => s), own])].sort((a, b) => a - b)
  const pixels = (s: number) =>
    s === own ? { width: frame?.width ?? 0, height: frame?.height ?? 0 } : aspect >= 1 ? { width: even(s * aspect), height: even(s) } : { width: even(s), height: even(s / aspect) }
  const spans = timeline.spans.filter((s) => chosen.includes(s.scene))
  const ranges: Record<Part, { start: number; end: number | null }> = {
    film: { start: 0, end: null },
    chosen: spans.length ? { start: Math.min(...spans.map((s) => s.join_start)), end: Math.max(...spans.map((s) => s.end)) } : { start: 0, end: null },
    stretch: { start: stretch[0], end: stretch[1] },
  }
  const range = kind.frames === 'one' ? { start: Math.max(0, Math.round(playhead)), end: null } : ranges[part]
  const uses = (use: (typeof kind.uses)[number]) => kind.uses.includes(use)
  const request: ExportRequest = { kind: kindId, ...pixels(shorter), rate, quality, dither, repeat, transparent: transparent && uses('transparent'), ...range }
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
  const { busy, doing } = useDoing(() => queries.invalidateQueries({ queryKey: ['exports', id] }))
  const empty = timeline.length === 0
  const length =
    kind.frames === 'one' ? `at ${clockText(playhead, 2)}` : kind.frames === 'none' ? spanText(estimate?.length_seconds ?? 0) : `${spanText(estimate?.length_seconds ?? 0)}, ${estimate?.frames} frames`
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} side title="Export" description="Named after the project. Several wait in line; they go on when you close this page.">
      <div className="grid grid-cols-[110px_1fr] items-center gap-x-4 gap-y-2.5">
        <label htmlFor="export-kind">Kind</label>
        <Select id="export-kind" label="Kind" value={kindId} choices={catalogue().kinds.map((k) => [k.id, k.label] as const)} onSet={choose} />
        <p className="col-start-2 -mt-1 text-[12px] text-soft">{kind.help}.</p>
        {kind.frames !== 'none' && (
          <>
            <label htmlFor="export-size">Size</label>
            <Select
              id="export-size"
              label="Size"
              value={String(shorter)}
              choices={sizes.map((s) => [String(s), `${pixels(s).width} × ${pixels(s).height}${s === own ? ' (the project’s)' : ''}`] as const)}
              onSet={(v) => setShorter(Number(v))}
            />
          </>
        )}
        {kind.frames === 'all' && (
          <>
            <label htmlFor="export-rate">Frames a second</label>
            <Select id="export-rate" label="Frames a second" value={rate} choices={catalogue().rates.map((r) => [r.label, r.label] as const)} onSet={setRate} />
          </>
        )}
        {uses('quality') && (
          <>
            <label htmlFor="export-quality">Quality</label>
            <Select id="export-quality" label="Quality" value={quality} choices={catalogue().qualities.map((q) => [q.id, `${q.label}: ${q.help.toLowerCase()}`] as const)} onSet={setQuality} />
          </>
        )}
        {uses('dither') && (
          <>
            <label htmlFor="export-dither">Dither</label>
            <Select id="export-dither" label="Dither" value={dither} choices={DITHERS} onSet={setDither} />
          </>
        )}
        {kind.frames !== 'one' && (
          <>
            <label htmlFor="export-part">What</label>
            <Select
              id="export-part"
              label="What"
              value={part}
              choices={[
                ['film', 'The whole film'],
                ['chosen', `The chosen scene${chosen.length === 1 ? '' : `s (${chosen.length})`}`],
                ['stretch', 'From one moment to another'],
              ]}
              onSet={(v) => setPart(v as Part)}
            />
          </>
        )}
        {kind.frames !== 'one' && part === 'stretch' && <StretchFields stretch={stretch} onSet={setStretch} />}
        {uses('repeat') && (
          <label className="col-start-2 flex items-center gap-2">
            <input type="checkbox" checked={repeat} onChange={(e) => setRepeat(e.target.checked)} /> Begins again at its end
          </label>
        )}
        {uses('transparent') && (
          <label className="col-start-2 flex items-center gap-2" title="What no layer and no backdrop covers">
            <input type="checkbox" checked={transparent} onChange={(e) => setTransparent(e.target.checked)} /> Empty places stay see-through
          </label>
        )}
      </div>
      <Estimate estimate={estimate} error={error} empty={empty} length={length} />
      <Button
        kind="strong"
        className="mt-4 !h-10 w-full"
        disabled={empty || busy}
        onClick={() => void doing(() => settled(client.POST('/api/projects/{project}/exports', { ...path, body: request })))}
      >
        Export the {{ all: 'film', one: 'still', none: 'sound' }[kind.frames]}
      </Button>
      <Exports jobs={jobs?.exports} onDo={doing} />
    </Dialog>
  )
}
