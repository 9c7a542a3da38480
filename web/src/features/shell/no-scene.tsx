import { Images } from 'lucide-react'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { placeAddress } from '@/project/places'

/** A film without a scene: what comes, or the way to pictures. */
export function NoScene({ id, pictures, coming }: { id: string; pictures: number; coming: number; onClose?: () => void }) {
  if (coming)
    return (
      <Middle>
        <h1 className="font-heading text-xl">Your pictures are on their way</h1>
        <p role="status" className="mt-2 text-soft">
          {coming} to come. Each becomes a scene as it arrives; the film can be watched from the first on.
        </p>
        <ContactSheetLink id={id} text="See them on the contact sheet" />
      </Middle>
    )
  return (
    <Middle>
      <Images className="mx-auto mb-4 text-brass" size={34} strokeWidth={1.4} />
      <h1 className="font-heading text-xl">The film has no scene yet</h1>
      <p className="mt-2 text-soft">
        {pictures
          ? 'Choose photographs on the contact sheet and put them into the film: each becomes a scene that drifts from an opening to a closing view.'
          : 'Begin on the contact sheet: drop photographs there, then put them into the film.'}
      </p>
      <ContactSheetLink id={id} text="Go to the contact sheet" />
    </Middle>
  )
}

const Middle = ({ children }: { children: ReactNode }) => (
  <div className="grid h-full place-items-center">
    <div className="max-w-md rounded-2xl border border-dashed hairline p-12 text-center">{children}</div>
  </div>
)

const ContactSheetLink = ({ id, text }: { id: string; text: string }) => (
  <Link to={placeAddress(id, 'contact-sheet')} className="mt-5 inline-flex h-8 items-center rounded-lg bg-ink px-3 font-medium text-on-ink">
    {text}
  </Link>
)
