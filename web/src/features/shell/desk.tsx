import { Images } from 'lucide-react'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { ACCEPTED, pour, sendAll, useSending } from '@/features/contact-sheet'
import { Details } from '@/features/details'
import { Easel } from '@/features/easel'
import { RunSheet } from '@/features/run-sheet'
import { placeAddress } from '@/project/places'
import { ownPictures, useProject } from '@/project/project'
import { askForFiles } from '@/ui/files'
import { type Sized, Splitter, useSize } from '@/ui/splitter'

export function Desk() {
  const id = useProject((s) => s.id)
  const empty = useProject((s) => !Object.keys(s.document.scenes ?? {}).length)
  const pictures = useProject((s) => ownPictures(s.document.media).length)
  const coming = useSending((s) => s.files.filter((f) => f.state !== 'refused').length)
  if (empty && coming)
    return (
      <Middle>
        <h1 className="font-heading text-xl">Your pictures are on their way</h1>
        <p role="status" className="mt-2 text-soft">
          {coming} to come. Each becomes a scene as it arrives; the film can be watched from the first on.
        </p>
        <ContactSheetLink id={id} text="See them on the contact sheet" />
      </Middle>
    )
  if (empty)
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
  return (
    <div className="flex h-full flex-col">
      <Refused id={id} />
      <EmptyZones />
      <Columns />
    </div>
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

/** Says that files did not go in, and where to see why. */
function Refused({ id }: { id: string }) {
  const count = useSending((s) => s.files.filter((f) => f.state === 'refused').length)
  if (!count) return null
  return (
    <p role="alert" className="shrink-0 border-b hairline bg-deep px-4 py-1.5 text-rowan">
      {count} file{count === 1 ? '' : 's'} did not go in.{' '}
      <Link to={placeAddress(id, 'contact-sheet')} className="underline underline-offset-2">
        See why on the contact sheet
      </Link>
    </p>
  )
}

/** Drop zones that wait for pictures, and the ways to fill them. */
function EmptyZones() {
  const empty = useProject((s) => {
    const stand = new Set(Object.entries(s.document.media ?? {}).flatMap(([k, m]) => (m.placeholder ? [k] : [])))
    return stand.size ? Object.values(s.document.scenes ?? {}).flatMap((scene) => Object.values(scene.layers ?? {}).filter((l) => l.kind === 'photo' && !l.hidden && stand.has(l.media))).length : 0
  })
  const scenes = useProject((s) => s.document.scenes)
  const media = useProject((s) => s.document.media)
  const coming = useSending((s) => s.files.some((f) => f.state !== 'refused'))
  if (!empty || coming) return null
  const used = new Set(Object.values(scenes ?? {}).flatMap((s) => Object.values(s.layers ?? {}).flatMap((l) => (l.kind === 'photo' ? [l.media] : []))))
  const unused = ownPictures(media).flatMap(([k]) => (used.has(k) ? [] : [k]))
  return (
    <p role="status" className="flex shrink-0 items-center gap-3 border-b hairline bg-deep px-4 py-1.5">
      {empty === 1 ? 'A drop zone is empty.' : `${empty} drop zones are empty.`}
      {unused.length > 0 && (
        <button type="button" className="text-tarn hover:underline" onClick={() => void pour(unused)}>
          Fill them with the {unused.length} unused picture{unused.length === 1 ? '' : 's'}
        </button>
      )}
      <button type="button" className="text-tarn hover:underline" onClick={() => void askForFiles({ accept: ACCEPTED }).then((files) => (files.length ? sendAll(files, 'template') : undefined))}>
        Add pictures for them…
      </button>
    </p>
  )
}

const SHEET: Sized = { name: 'sheet', label: 'Width of the run sheet', usual: (room) => (room < 1200 ? 246 : 266), least: 200, most: 0.34, across: true }
const DETAILS: Sized = { name: 'details', label: 'Width of the details', usual: (room) => (room < 1200 ? 276 : room < 1700 ? 284 : 320), least: 256, most: 0.36, across: true }

/** Run sheet, easel, details: the edges between them can be moved, and stay where they were left. */
function Columns() {
  const [sheet, details] = [useSize(SHEET), useSize(DETAILS)]
  return (
    <div className="relative grid min-h-0 flex-1" style={{ gridTemplateColumns: `${sheet}px minmax(0, 1fr) ${details}px` }}>
      <RunSheet />
      <Easel />
      <Details />
      <span className="contents">
        <Splitter part={SHEET} grows="before" className="absolute inset-y-0 z-10 w-[7px] -translate-x-1/2" at={{ left: sheet }} />
        <Splitter part={DETAILS} grows="after" className="absolute inset-y-0 z-10 w-[7px] translate-x-1/2" at={{ right: details }} />
      </span>
    </div>
  )
}
