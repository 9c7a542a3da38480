import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Images, LayoutTemplate, MoreHorizontal, Plus, TriangleAlert, UserRound } from 'lucide-react'
import { type DragEvent, type ReactNode, useState } from 'react'
import { Link } from 'react-router'
import { address, client, endSession, type ProjectSummary, settled } from '@/api/client'
import { Brand, ThemeSwitch } from '@/ui/brand'
import { droppedFiles } from '@/features/contact-sheet'
import { spanText } from '@/project/times'
import { Button } from '@/ui/button'
import { later } from '@/ui/later'
import { Menu } from '@/ui/menu'
import { say } from '@/ui/notices'
import { fillingAddress } from '@/project/places'
import { shapeName } from '@/project/shapes'

/** The film that ships with every installation. */
const DEMO_TITLE = 'First Light at Ossel Ridge'

const NewProject = later(() => import('./new-project').then((m) => m.NewProject))

export function ProjectsPage() {
  const [making, setMaking] = useState(false)
  const [dropped, setDropped] = useState<File[]>([])
  const { data, error, isPending, refetch } = useQuery({ queryKey: ['projects'], queryFn: () => settled(client.GET('/api/projects')) })

  // Nothing of one's own yet: the ways in, and nothing else.
  const fresh = data && data.projects.length <= (data.projects[0]?.title === DEMO_TITLE ? 1 : 0)
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
        <span className="flex items-center gap-1">
          <ThemeSwitch />
          <Menu
            trigger={
              <button type="button" aria-label="This browser" className="rounded-md p-1.5 hover:bg-deep">
                <UserRound size={17} />
              </button>
            }
            entries={[
              { label: 'Sign out all other browsers', run: () => void signOut(true) },
              { label: 'Sign out this browser', run: () => void signOut(false) },
            ]}
          />
        </span>
      </header>
      <main className="mx-auto w-full max-w-6xl flex-1 px-8 py-8">
        {!fresh && (
          <div className="mb-6 flex items-end justify-between">
            <div>
              <h1 className="font-heading text-3xl font-semibold">Projects</h1>
              <p className="mt-1 text-soft">Drop a folder of photographs anywhere here to begin a film with them.</p>
            </div>
            <span className="flex gap-2">
              <ToFill />
              <Button kind="strong" onClick={() => setMaking(true)}>
                <Plus size={16} /> New project
              </Button>
            </span>
          </div>
        )}
        {isPending && (
          <p role="status" className="text-soft">
            Looking for your projects…
          </p>
        )}
        {error && (
          <div role="alert" className="rounded-xl border border-rowan p-5">
            <p>{error.message}</p>
            <Button className="mt-3" onClick={() => refetch()}>
              Try again
            </Button>
          </div>
        )}
        {fresh && <Beginning demo={data.projects.length > 0} onBegin={() => setMaking(true)} />}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-6">
          {data?.projects.map((p) => (
            <Card key={p.id} project={p} />
          ))}
        </ul>
      </main>
      {making && (
        <NewProject
          dropped={dropped}
          onClose={() => {
            setMaking(false)
            setDropped([])
          }}
        />
      )}
    </div>
  )
}

/** The way for those who only fill. */
const ToFill = () => (
  <Link
    to={fillingAddress(null)}
    title="Choose a template, add pictures and words, export: four steps"
    className="inline-flex h-8 items-center gap-1.5 rounded-lg border hairline bg-card px-3 font-medium hover:bg-deep"
  >
    <LayoutTemplate size={16} /> Fill a template
  </Link>
)

/** The ways into a first film. */
function Beginning({ demo, onBegin }: { demo: boolean; onBegin: () => void }) {
  return (
    <>
      <h1 className="sr-only">Projects</h1>
      <div className="rounded-2xl border-2 border-dashed hairline px-10 py-14 text-center">
        <Images className="mx-auto mb-4 text-brass" size={38} strokeWidth={1.3} />
        <p className="font-heading text-2xl font-semibold">Drop your photographs here</p>
        <p className="mt-2 text-soft">Single ones or a whole folder: they become the scenes of a film, which you can watch at once.</p>
        <span className="mt-6 flex justify-center gap-2">
          <Button kind="strong" onClick={onBegin}>
            <Plus size={16} /> New project
          </Button>
          <ToFill />
        </span>
      </div>
      {demo && <p className="mb-4 mt-10 font-heading text-[17px]">Or look around in a finished film first:</p>}
    </>
  )
}

async function signOut(others: boolean): Promise<void> {
  try {
    await endSession(others)
    if (others) say('All other browsers are signed out.')
    else location.assign('/')
  } catch (error) {
    say((error as Error).message, 'fault')
  }
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
      if (title && title !== project.title) await settled(client.POST('/api/projects/{project}/edits', { ...path, body: { base: project.revision, edits: [{ edit: 'set_title', title }] } }))
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
      <Opening project={project}>
        <div className="grid aspect-video place-items-center overflow-hidden bg-surround">
          {project.fault ? (
            <span className="flex max-w-[85%] items-start gap-2 text-chalk">
              <TriangleAlert size={16} className="mt-0.5 shrink-0 text-glow" /> <span>This project cannot be opened. {project.fault}</span>
            </span>
          ) : project.poster_key ? (
            <img src={address.poster(project.id, project.poster_key)} alt="" className="h-full w-full object-contain" />
          ) : (
            <span className="text-ash">no scene yet</span>
          )}
        </div>
        <div className="px-4 pb-3.5 pt-3">
          {renaming === null && (
            <h2 className="truncate pr-8 font-heading text-[17px] font-semibold">
              <span className="sr-only">Open </span>
              {project.title}
            </h2>
          )}
          {renaming !== null && <div className="h-[26px]" />}
          <p className="mt-0.5 text-soft">
            {project.fault && !project.scenes ? (
              'Everything else is as it was.'
            ) : (
              <>
                {shapeName(project.width, project.height)} · {project.scenes} scene{project.scenes === 1 ? '' : 's'} ·{' '}
                {project.scenes ? spanText(project.length_seconds) : `${project.pictures} pictures`}
              </>
            )}
          </p>
        </div>
      </Opening>
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
            { label: 'Rename', disabled: Boolean(project.fault), run: () => setRenaming(project.title) },
            {
              label: 'Make a copy',
              disabled: Boolean(project.fault),
              run: () => void attempt(() => settled(client.POST('/api/projects', { body: { title: project.title, edits: [], copy_of: project.id } }))),
            },
            'rule',
            { label: 'Delete', run: remove, danger: true },
          ]}
        />
      </div>
    </li>
  )
}

/** The way into a project; there is none into one that cannot be read. */
function Opening({ project, children }: { project: ProjectSummary; children: ReactNode }) {
  if (project.fault) return <div className="rounded-xl">{children}</div>
  return (
    <Link to={`/projects/${project.id}${project.scenes ? '' : '/contact-sheet'}`} className="block rounded-xl">
      {children}
    </Link>
  )
}
