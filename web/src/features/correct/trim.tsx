import { useEffect, useState } from 'react'
import { type Area, client, settled } from '@/api/client'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { say } from '@/ui/notices'
import { useDeveloped } from './developed'

type Found = { id: string; crop: Area | null }

/** Borders of scans found by themselves, shown before they are cut away. */
export function Trim({ ids, onClose }: { ids: string[]; onClose: () => void }) {
  const project = useProject((s) => s.id)
  const [found, setFound] = useState<Found[] | null>(null)
  const [left, setLeft] = useState<string[]>([])
  const key = ids.join(',')
  useEffect(() => {
    settled(client.POST('/api/projects/{project}/borders', { params: { path: { project } }, body: { ids: key.split(',') } }))
      .then((answer) => setFound(answer.found as Found[]))
      .catch((error: Error) => {
        say(error.message, 'fault')
        onClose()
      })
  }, [project, key, onClose])
  const bordered = (found ?? []).filter((f): f is { id: string; crop: Area } => Boolean(f.crop))
  const ticked = bordered.filter((f) => !left.includes(f.id))
  const accept = async () => {
    onClose()
    if (await edit({ edit: 'trim_pictures', pictures: ticked })) say(`Borders of ${ticked.length} picture${ticked.length === 1 ? '' : 's'} are trimmed. One undo brings them back.`)
  }
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} wide title="Trim borders" description="Dark or light borders around scans. What is darkened will be cut away; the files stay as they are.">
      {!found && (
        <p role="status">
          Looking at {ids.length} picture{ids.length === 1 ? '' : 's'}…
        </p>
      )}
      {found && !bordered.length && <p>None of these pictures has a plain border.</p>}
      <ul aria-label="Pictures with borders" className="grid max-h-[56vh] grid-cols-[repeat(auto-fill,minmax(230px,1fr))] gap-3 overflow-y-auto p-1">
        {bordered.map((f) => (
          <li key={f.id}>
            <label className={`block rounded-xl p-2 ${left.includes(f.id) ? 'opacity-60' : 'bg-card'}`}>
              <Bordered id={f.id} crop={f.crop} />
              <Name id={f.id} on={!left.includes(f.id)} onTick={() => setLeft((l) => (l.includes(f.id) ? l.filter((x) => x !== f.id) : [...l, f.id]))} />
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex items-center justify-end gap-3">
        {found && (
          <span className="text-soft">
            {bordered.length} of {ids.length} have borders
          </span>
        )}
        <Button onClick={onClose}>Leave them</Button>
        <Button kind="strong" disabled={!ticked.length} onClick={() => void accept()}>
          Trim {ticked.length || ''}
        </Button>
      </div>
    </Dialog>
  )
}

function Bordered({ id, crop }: { id: string; crop: Area }) {
  const { url } = useDeveloped(id, [], true)
  const [x, y, w, h] = [crop.x ?? 0, crop.y ?? 0, crop.width ?? 1, crop.height ?? 1].map((v) => v * 100) as [number, number, number, number]
  return (
    <span className="relative mx-auto grid h-[150px] place-items-center">
      {url && (
        <span className="relative inline-block">
          <img src={url} alt="" className="block max-h-[150px] max-w-full" />
          <svg aria-hidden="true" viewBox="0 0 100 100" preserveAspectRatio="none" className="absolute inset-0 h-full w-full">
            <path fillRule="evenodd" fill="#a53f28" fillOpacity={0.6} d={`M0 0H100V100H0Z M${x} ${y}h${w}v${h}h${-w}Z`} />
            <rect x={x} y={y} width={w} height={h} fill="none" stroke="#fff" strokeWidth={1} vectorEffect="non-scaling-stroke" />
          </svg>
        </span>
      )}
    </span>
  )
}

function Name({ id, on, onTick }: { id: string; on: boolean; onTick: () => void }) {
  const name = useProject((s) => s.document.media?.[id]?.name)
  return (
    <span className="mt-1.5 flex items-center gap-2">
      <input type="checkbox" checked={on} onChange={onTick} /> <span className="truncate">{name}</span>
    </span>
  )
}
