import { useQuery, useQueryClient } from '@tanstack/react-query'
import { MoreHorizontal, Plus } from 'lucide-react'
import { type DragEvent, useState } from 'react'
import { Link } from 'react-router'
import { address, client, type ProjectSummary, settled } from '@/api/client'
import { Brand, ThemeSwitch } from '@/app/brand'
import { droppedFiles } from '@/features/contact-sheet/dropped'
import { spanText } from '@/project/times'
import { Button } from '@/ui/button'
import { Menu } from '@/ui/menu'
import { say } from '@/ui/notices'
import { shapeName } from './frame-fields'
import { NewProject } from './new-project'

export function ProjectsPage() {
  const [making, setMaking] = useState(false)
  const [dropped, setDropped] = useState<File[]>([])
  const { data, error, isPending, refetch } = useQuery({ queryKey: ['projects'], queryFn: () => settled(client.GET('/api/projects')) })

  const drop = async (event: DragEvent) => {
    event.preventDefault()
    const files = await droppedFiles(event.dataTransfer)
    if (files.length) {
      setDropped(files)
      setMaking(true)
    }
  }

  return (
    <div className="flex min-h-full flex-col" onDragOver={(e) => e.preventDefault()} onDrop={drop}>
      <header className="flex h-[46px] items-center justify-between border-b hairline px-5">
        <Brand />
        <ThemeSwitch />
      </header>
      <main className="mx-auto w-full max-w-6xl flex-1 px-8 py-8">
        <div className="mb-6 flex items-end justify-between">
          <div>
            <h1 className="font-heading text-3xl font-semibold">Projects</h1>
            <p className="mt-1 text-soft">Drop a folder of photographs anywhere here to begin a film with them.</p>
          </div>
          <Button kind="strong" onClick={() => setMaking(true)} className="!h-9 !px-4">
            <Plus size={16} /> New project
          </Button>
        </div>
        {isPending && <p role="status" className="text-soft">Looking for your projects…</p>}
        {error && (
          <div role="alert" className="rounded-xl border border-rowan p-5">
            <p>{error.message}</p>
            <Button className="mt-3" onClick={() => refetch()}>
              Try again
            </Button>
          </div>
        )}
        {data && data.projects.length === 0 && (
          <div className="rounded-2xl border border-dashed hairline p-14 text-center">
            <p className="font-heading text-xl">No project yet</p>
            <p className="mt-2 text-soft">A film begins with photographs: drop them here, or start blank and add them on the contact sheet.</p>
            <Button kind="strong" className="mt-5" onClick={() => setMaking(true)}>
              <Plus size={16} /> New project
            </Button>
          </div>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-6">
          {data?.projects.map((p) => (
            <Card key={p.id} project={p} />
          ))}
        </ul>
      </main>
      {making && (
        <NewProject
          open
          dropped={dropped}
          onOpenChange={(open) => {
            setMaking(open)
            if (!open) setDropped([])
          }}
        />
      )}
    </div>
  )
}

function Card({ project }: { project: ProjectSummary }) {
  const queries = useQueryClient()
  const [renaming, setRenaming] = useState<string | null>(null)
  const path = { params: { path: { project: project.id } } }
  const again = () => queries.invalidateQueries({ queryKey: ['projects'] })
  const attempt = async (what: () => Promise<unknown>) => {
    try {
      await what()
    } catch (error) {
      say((error as Error).message, 'fault')
    }
    await again()
  }
  const rename = () =>
    attempt(async () => {
      const title = renaming?.trim()
      setRenaming(null)
      if (title && title !== project.title)
        await settled(client.POST('/api/projects/{project}/edits', { ...path, body: { base: project.revision, edits: [{ edit: 'set_title', title }] } }))
    })
  const remove = () =>
    attempt(async () => {
      await settled(client.DELETE('/api/projects/{project}', path))
      say(`“${project.title}” was deleted.`, 'news', {
        label: 'Bring it back',
        run: () => void attempt(() => settled(client.POST('/api/projects/{project}/bring-back', path))),
      })
    })
  return (
    <li className="group relative overflow-hidden rounded-xl border hairline bg-card transition-shadow hover:shadow-lg focus-within:shadow-lg">
      <Link to={`/projects/${project.id}${project.scenes ? '' : '/contact-sheet'}`} className="block rounded-xl">
        <div className="grid aspect-video place-items-center overflow-hidden bg-surround">
          {project.poster_key ? (
            <img src={address.poster(project.id, project.poster_key)} alt="" className="h-full w-full object-contain" />
          ) : (
            <span className="text-ash">no scene yet</span>
          )}
        </div>
        <div className="px-4 pb-3.5 pt-3">
          {renaming === null && <h2 className="truncate pr-8 font-heading text-[17px] font-semibold"><span className="sr-only">Open </span>{project.title}</h2>}
          {renaming !== null && <div className="h-[26px]" />}
          <p className="mt-0.5 text-soft">
            {shapeName(project.width, project.height)} · {project.scenes} scene{project.scenes === 1 ? '' : 's'} · {project.scenes ? spanText(project.length_seconds) : `${project.pictures} pictures`}
          </p>
        </div>
      </Link>
      {renaming !== null && (
        <input
          aria-label="New title"
          // biome-ignore lint/a11y/noAutofocus: the person asked to type here
          autoFocus
          value={renaming}
          maxLength={200}
          onChange={(e) => setRenaming(e.target.value)}
          onBlur={rename}
          onKeyDown={(e) => {
            if (e.key === 'Enter') rename()
            if (e.key === 'Escape') setRenaming(null)
          }}
          className="absolute bottom-[34px] left-3 right-12 h-8 rounded-md border hairline bg-card px-1 font-heading text-[17px] font-semibold"
        />
      )}
      <div className="absolute bottom-[30px] right-2.5">
        <Menu
          trigger={
            <button type="button" aria-label={`More for ${project.title}`} className="rounded-md p-1.5 hover:bg-deep">
              <MoreHorizontal size={17} />
            </button>
          }
          entries={[
            { label: 'Rename', run: () => setRenaming(project.title) },
            { label: 'Make a copy', run: () => void attempt(() => settled(client.POST('/api/projects', { body: { title: project.title, edits: [], copy_of: project.id } }))) },
            'rule',
            { label: 'Delete', run: remove, danger: true },
          ]}
        />
      </div>
    </li>
  )
}
