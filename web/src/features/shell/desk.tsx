import { Images } from 'lucide-react'
import { Link } from 'react-router'
import { Details } from '@/features/details'
import { Easel } from '@/features/easel'
import { RunSheet } from '@/features/run-sheet'
import { useProject } from '@/project/project'
import { type Sized, Splitter, useSize } from '@/ui/splitter'

export function Desk() {
  const id = useProject((s) => s.id)
  const empty = useProject((s) => !Object.keys(s.document.scenes ?? {}).length)
  const pictures = useProject((s) => Object.keys(s.document.media ?? {}).length)
  if (empty)
    return (
      <div className="grid h-full place-items-center">
        <div className="max-w-md rounded-2xl border border-dashed hairline p-12 text-center">
          <Images className="mx-auto mb-4 text-brass" size={34} strokeWidth={1.4} />
          <h1 className="font-heading text-xl">The film has no scene yet</h1>
          <p className="mt-2 text-soft">{pictures ? 'Choose photographs on the contact sheet and put them into the film: each becomes a scene that drifts from an opening to a closing view.' : 'Begin on the contact sheet: drop photographs there, then put them into the film.'}</p>
          <Link to={`/projects/${id}/contact-sheet`} className="mt-5 inline-flex h-8 items-center rounded-lg bg-ink px-3 font-medium text-on-ink">
            Go to the contact sheet
          </Link>
        </div>
      </div>
    )
  return (
    <Columns />
  )
}

const SHEET: Sized = { name: 'sheet', label: 'Width of the run sheet', usual: (room) => (room < 1200 ? 226 : 266), least: 200, most: 0.34, across: true }
const DETAILS: Sized = { name: 'details', label: 'Width of the details', usual: (room) => (room < 1200 ? 268 : room < 1700 ? 284 : 320), least: 256, most: 0.36, across: true }

/** Run sheet, easel, details: the edges between them can be moved, and stay where they were left. */
function Columns() {
  const [sheet, details] = [useSize(SHEET), useSize(DETAILS)]
  return (
    <div className="relative grid h-full" style={{ gridTemplateColumns: `${sheet}px minmax(0, 1fr) ${details}px` }}>
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
