import { useQuery } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { client, settled } from '@/api/client'
import { returnTo } from '@/project/connection'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { say } from '@/ui/notices'

/** Named versions of the project: name the present one, return to an earlier one. */
export function Versions({ onClose }: { onClose: () => void }) {
  const id = useProject((s) => s.id)
  const path = { params: { path: { project: id } } }
  const [name, setName] = useState('')
  const { data, refetch } = useQuery({ queryKey: ['versions', id], queryFn: () => settled(client.GET('/api/projects/{project}/versions', path)) })
  const keep = async (event: FormEvent) => {
    event.preventDefault()
    try {
      await settled(client.POST('/api/projects/{project}/versions', { ...path, body: { name: name.trim() } }))
      setName('')
      await refetch()
    } catch (error) {
      say((error as Error).message, 'fault')
    }
  }
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} side title="Named versions" description="Every change is kept by itself. Give a name to a state you may want back.">
      <form onSubmit={keep} className="flex gap-2">
        <input
          aria-label="Name of this version"
          value={name}
          onChange={(e) => setName(e.target.value)}
          maxLength={200}
          placeholder="Before the shorter ending"
          className="h-8 flex-1 rounded-lg border hairline bg-card px-2.5"
        />
        <Button kind="strong" type="submit" disabled={!name.trim()}>
          Name it
        </Button>
      </form>
      <ul className="mt-5 space-y-2">
        {data?.versions.map((v) => (
          <li key={v.id} className="flex items-center justify-between gap-3 rounded-lg border hairline bg-card px-3 py-2">
            <span className="min-w-0">
              <span className="block truncate font-medium">{v.name}</span>
              <span className="text-[12px] text-soft">{new Date(v.created).toLocaleString()}</span>
            </span>
            <span className="flex shrink-0 gap-1.5">
              <Button
                onClick={() => {
                  useSession.setState({ compared: { id: v.id, name: v.name }, looking: 'live' })
                  onClose()
                }}
              >
                Compare
              </Button>
              <Button onClick={async () => (await returnTo(v.id)) && say(`Returned to “${v.name}”. Undo takes you back.`)}>Return</Button>
            </span>
          </li>
        ))}
        {data && !data.versions.length && <li className="text-soft">No version has a name yet.</li>}
      </ul>
    </Dialog>
  )
}
