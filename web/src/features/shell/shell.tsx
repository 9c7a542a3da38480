import { useEffect } from 'react'
import { useNavigate, useParams } from 'react-router'
import { leadBy, type Place, placeAt } from '@/project/places'
import { NotOpen } from '@/project/not-open'
import { useOpened } from '@/project/opened'
import { arriving } from '@/ui/arriving'
import { Dialogs } from './dialogs'
import { Header } from './header'
import { useKeys } from './keys'

const PLACES = {
  desk: arriving(() => import('./desk').then((m) => m.Desk)),
  'contact-sheet': arriving(() => import('@/features/contact-sheet/contact-sheet').then((m) => m.ContactSheet)),
  sound: arriving(() => import('@/features/sound/sound-page').then((m) => m.SoundPage)),
  workshop: arriving(() => import('@/features/templates/workshop').then((m) => m.Workshop)),
} satisfies Record<Place, unknown>

// The place is loaded while the project is being opened, not after it.
PLACES[placeAt(location.pathname)].ask()

/** The open project: its header, and the place one is in. */
export function ProjectShell({ place }: { place: Place }) {
  const { id = '' } = useParams()
  const { open, fault, connected } = useOpened(id)

  useEffect(() => PLACES[place].ask(), [place])

  const navigate = useNavigate()
  useEffect(() => leadBy((address) => void navigate(address)), [navigate])

  useKeys(place)
  const Here = PLACES[place]

  if (fault || !open) return <NotOpen fault={fault} />
  return (
    <div className="flex h-full flex-col overflow-hidden">
      <Header place={place} connected={connected} />
      <main className="min-h-0 flex-1">
        <Here />
      </main>
      <Dialogs />
    </div>
  )
}
