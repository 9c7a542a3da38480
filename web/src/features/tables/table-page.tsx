import { ArrowLeft } from 'lucide-react'
import { useEffect, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { KeptState } from '@/project/kept-state'
import { NotOpen } from '@/project/not-open'
import { useOpened } from '@/project/opened'
import { fillingAddress, leadBy } from '@/project/places'
import { useProject } from '@/project/project'
import { Brand } from '@/ui/brand'
import { Columns } from './columns'
import { Films } from './films'
import { NoTable } from './no-table'
import { RowPreview } from './row-preview'
import { useTable } from './told'

/** A table of the project, of which each row makes a film. */
export function TablePage() {
  const { id = '' } = useParams()
  const { open, fault, connected } = useOpened(id)
  const navigate = useNavigate()
  useEffect(() => leadBy((address) => void navigate(address)), [navigate])
  if (fault || !open) return <NotOpen fault={fault} />
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-[46px] shrink-0 items-center gap-4 border-b hairline px-4 max-sm:px-2">
        <Brand />
        <KeptState connected={connected} />
        <span className="flex-1" />
        <Link to={fillingAddress(id, 'export')} className="inline-flex h-9 items-center gap-1.5 rounded-lg px-2.5 hover:bg-deep">
          <ArrowLeft size={16} /> Back to the film
        </Link>
      </header>
      <main className="min-h-0 flex-1 overflow-y-auto">
        <Page />
      </main>
    </div>
  )
}

function Page() {
  const title = useProject((s) => s.document.title)
  const kept = useTable()
  const [number, setNumber] = useState(0)
  const { table } = kept
  if (table === undefined)
    return (
      <p role="status" className="p-8 text-center text-soft">
        Opening…
      </p>
    )
  return (
    <div className="mx-auto max-w-[1300px] px-5 py-5 max-sm:px-3">
      <h1 className="font-heading text-[26px] font-semibold">A film of each row</h1>
      <p className="mt-1 text-soft">“{title}” again and again, each time with what one row of a table says: other words, other pictures, another colour.</p>
      {table === null ? (
        <NoTable onTake={kept.take} />
      ) : (
        <div className="mt-4 flex flex-col gap-6 lg:flex-row">
          <div className="min-w-0 lg:w-[430px] lg:shrink-0">
            <Columns table={table} kept={kept} />
          </div>
          <div className="min-w-0 flex-1 space-y-5">
            <RowPreview table={table} version={kept.version} number={Math.min(number, table.rows - 1)} onLook={setNumber} />
            <Films table={table} />
          </div>
        </div>
      )}
    </div>
  )
}
