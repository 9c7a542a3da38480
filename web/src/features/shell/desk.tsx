import { Link } from 'react-router'
import { useSending } from '@/features/contact-sheet'
import { Details } from '@/features/details'
import { Easel } from '@/features/easel'
import { RunSheet } from '@/features/run-sheet'
import { placeAddress } from '@/project/places'
import { ownPictures, useProject } from '@/project/project'
import { later } from '@/ui/later'
import { type Sized, Splitter, useSize } from '@/ui/splitter'

// What is seen now and then is loaded then.
const NoScene = later<{ id: string; pictures: number; coming: number; onClose?: () => void }>(() => import('./no-scene').then((m) => m.NoScene))
const EmptyZones = later(() => import('./empty-zones').then((m) => m.EmptyZones))

export function Desk() {
  const stoodIn = useProject((s) => Object.values(s.document.media ?? {}).some((m) => m.placeholder))
  const id = useProject((s) => s.id)
  const empty = useProject((s) => !Object.keys(s.document.scenes ?? {}).length)
  const pictures = useProject((s) => ownPictures(s.document.media).length)
  const coming = useSending((s) => s.files.filter((f) => f.state !== 'refused').length)
  if (empty) return <NoScene id={id} pictures={pictures} coming={coming} />
  return (
    <div className="flex h-full flex-col">
      <Refused id={id} />
      {stoodIn && <EmptyZones />}
      <Columns />
    </div>
  )
}

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
