import { lazy, Suspense, useEffect, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { client, Refused, settled } from '@/api/client'
import { leadBy, type Place } from '@/project/places'
import { openProject, passes, tryNow, useKept } from '@/project/connection'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { say } from '@/ui/notices'
import { Dialogs } from './dialogs'
import { Header } from './header'
import { useKeys } from './keys'

const LOADED = {
  desk: () => import('./desk').then((m) => ({ default: m.Desk })),
  'contact-sheet': () => import('@/features/contact-sheet/contact-sheet').then((m) => ({ default: m.ContactSheet })),
  sound: () => import('@/features/sound/sound-page').then((m) => ({ default: m.SoundPage })),
  workshop: () => import('@/features/templates/workshop').then((m) => ({ default: m.Workshop })),
} satisfies Record<Place, unknown>

const PLACES = { desk: lazy(LOADED.desk), 'contact-sheet': lazy(LOADED['contact-sheet']), sound: lazy(LOADED.sound), workshop: lazy(LOADED.workshop) }

const LOOK_EVERY_MS = 4000

/** The open project: its header, and the place one is in. */
export function ProjectShell({ place }: { place: Place }) {
  const { id = '' } = useParams()
  const open = useProject((s) => s.id === id && Boolean(s.document))
  const title = useProject((s) => s.document?.title)
  const [fault, setFault] = useState<string | null>(null)
  const [connected, setConnected] = useState(true)

  // The place is loaded while the project is being opened, not after it.
  useEffect(() => void LOADED[place]().catch(() => undefined), [place])

  useEffect(() => {
    setFault(null)
    let again = 0
    const begin = () => {
      if (useProject.getState().id === id) return
      openProject(id).then(
        () => setFault(null),
        (error: Error) => {
          setFault(error.message)
          if (error instanceof Refused && passes(error.status)) again = window.setTimeout(begin, LOOK_EVERY_MS / 2)
        },
      )
    }
    begin()
    return () => clearTimeout(again)
  }, [id])

  useEffect(() => {
    if (open && title) document.title = `${title} · Oak Lens`
    return () => {
      document.title = 'Oak Lens'
    }
  }, [open, title])

  // Another window may have changed the project: take over its newest state.
  useEffect(() => {
    if (!open) return
    const timer = setInterval(async () => {
      const { kept } = useKept.getState()
      const { tried } = useSession.getState()
      const { revision } = useProject.getState()
      if (document.hidden || tried || kept === 'keeping' || kept === 'waiting') return
      try {
        const state = await settled(client.GET('/api/projects/{project}/state', { params: { path: { project: id } } }))
        const now = useProject.getState()
        if (!connected) setConnected(true)
        if (state.revision > revision && now.revision === revision && !useSession.getState().tried) {
          await openProject(id)
          say('Taken over what was changed in another window.')
        }
      } catch (error) {
        if (error instanceof Refused && passes(error.status)) setConnected(false)
      }
    }, LOOK_EVERY_MS)
    return () => clearInterval(timer)
  }, [open, id, connected])

  useEffect(() => {
    window.addEventListener('online', tryNow)
    return () => window.removeEventListener('online', tryNow)
  }, [])

  const navigate = useNavigate()
  useEffect(() => leadBy((address) => void navigate(address)), [navigate])

  useKeys(place)
  const Here = PLACES[place]

  if (fault && !open)
    return (
      <main className="grid h-full place-items-center">
        <div className="text-center">
          <p className="font-heading text-xl">{fault}</p>
          <Link className="mt-3 inline-block text-tarn underline" to="/">
            All projects
          </Link>
        </div>
      </main>
    )
  if (!open)
    return (
      <div role="status" className="grid h-full place-items-center text-soft">
        Opening the project…
      </div>
    )
  return (
    <div className="flex h-full flex-col overflow-hidden">
      <Header place={place} connected={connected} />
      <main className="min-h-0 flex-1">
        <Suspense
          fallback={
            <div role="status" className="grid h-full place-items-center text-soft">
              Opening…
            </div>
          }
        >
          <Here />
        </Suspense>
      </main>
      <Dialogs />
    </div>
  )
}
