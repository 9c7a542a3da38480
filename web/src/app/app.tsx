import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { BrowserRouter, Route, Routes } from 'react-router'
import { client, openSession, Refused, settled } from '@/api/client'
import { loadCatalogue } from '@/project/catalogue'
import { expectProject } from '@/project/expected'
import { arriving, Waiting } from '@/ui/arriving'
import { Notices } from '@/ui/notices'
import { startTheme } from '@/ui/theme'

const ProjectShell = arriving(() => import('@/features/shell').then((m) => m.ProjectShell))
const FillingPage = arriving(() => import('@/features/filling/filling-page').then((m) => m.FillingPage))
const TablePage = arriving(() => import('@/features/tables/table-page').then((m) => m.TablePage))
const ProjectsPage = arriving(() => import('@/features/projects/page').then((m) => m.ProjectsPage))

/** The page at an address. */
const pageAt = (path: string) => (path.endsWith('/fill') ? FillingPage : path.endsWith('/table') ? TablePage : path.startsWith('/projects/') ? ProjectShell : ProjectsPage)

const AGAIN_MS = 1500
const RESTING_MS = 1500

export function App() {
  const queries = useQueryClient()
  const [state, setState] = useState<'opening' | 'open' | string>('opening')
  useEffect(() => {
    startTheme()
    // A page's scripts, and a project's document, travel together with the session and the catalogue.
    const page = pageAt(location.pathname)
    page.ask()
    // What most likely comes next arrives while one looks at the list.
    const resting = page === ProjectsPage ? window.setTimeout(ProjectShell.ask, RESTING_MS) : 0
    const id = /^\/projects\/([^/]+)/.exec(location.pathname)?.[1]
    if (location.pathname.endsWith('/fill')) {
      void queries.prefetchQuery({ queryKey: ['templates'], queryFn: () => settled(client.GET('/api/templates')) })
    }
    if (id) expectProject(id)
    let again = 0
    const begin = () =>
      Promise.all([openSession(), loadCatalogue()]).then(
        () => setState('open'),
        (error) => {
          setState(error instanceof Refused ? error.message : 'The server does not answer. Check that ./oak start is running.')
          // While the server is away it is asked again; a browser that is not signed in is not.
          if (!(error instanceof Refused) || error.status !== 401) again = window.setTimeout(begin, AGAIN_MS)
        },
      )
    void begin()
    return () => {
      clearTimeout(again)
      clearTimeout(resting)
    }
  }, [queries])
  if (state === 'opening') return <Waiting />
  if (state !== 'open')
    return (
      <main className="grid h-full place-items-center p-8">
        <div className="max-w-md text-center">
          <h1 className="font-heading text-2xl font-semibold">Oak Lens</h1>
          <p className="mt-3 text-soft">{state}</p>
        </div>
      </main>
    )
  return (
    <BrowserRouter>
      <Routes>
        <Route path="/" element={<ProjectsPage />} />
        <Route path="/fill" element={<FillingPage />} />
        <Route path="/projects/:id/fill" element={<FillingPage />} />
        <Route path="/projects/:id/table" element={<TablePage />} />
        <Route path="/projects/:id" element={<ProjectShell place="desk" />} />
        <Route path="/projects/:id/contact-sheet" element={<ProjectShell place="contact-sheet" />} />
        <Route path="/projects/:id/sound" element={<ProjectShell place="sound" />} />
        <Route path="/projects/:id/workshop" element={<ProjectShell place="workshop" />} />
        <Route path="*" element={<ProjectsPage />} />
      </Routes>
      <Notices />
    </BrowserRouter>
  )
}
