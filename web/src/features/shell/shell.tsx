import { lazy, Suspense, useEffect } from 'react'
import { useNavigate, useParams } from 'react-router'
import { leadBy, type Place } from '@/project/places'
import { NotOpen } from '@/project/not-open'
import { useOpened } from '@/project/opened'
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

/** The open project: its header, and the place one is in. */
export function ProjectShell({ place }: { place: Place }) {
  const { id = '' } = useParams()
  const { open, fault, connected } = useOpened(id)

  // The place is loaded while the project is being opened, not after it.
  useEffect(() => void LOADED[place]().catch(() => undefined), [place])

  const navigate = useNavigate()
  useEffect(() => leadBy((address) => void navigate(address)), [navigate])

  useKeys(place)
  const Here = PLACES[place]

  if (fault || !open) return <NotOpen fault={fault} />
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
