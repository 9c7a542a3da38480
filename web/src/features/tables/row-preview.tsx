import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { ChevronLeft, ChevronRight } from 'lucide-react'
import { useState } from 'react'
import { address, client, type FilmTable, settled } from '@/api/client'
import { useProject } from '@/project/project'
import { Button, IconButton } from '@/ui/button'
import { Painted } from '@/ui/painted'

type Props = { table: FilmTable; version: number; number: number; onLook: (number: number) => void }

/** The film of one row, and what is wrong with which rows. */
export function RowPreview({ table, version, number, onLook }: Props) {
  const project = useProject((s) => s.id)
  const [looked, setLooked] = useState(0)
  const { data: row } = useQuery({
    queryKey: ['table-row', project, version, number],
    queryFn: () => settled(client.GET('/api/projects/{project}/table/rows/{number}', { params: { path: { project, number } } })),
    placeholderData: keepPreviousData,
  })
  const frame = (scene: string, width: number) => address.tableRow(project, number, scene, width, version)
  const scene = row?.scenes[Math.min(looked, row.scenes.length - 1)]
  return (
    <section aria-label="The film of a row">
      <div className="flex items-center gap-1">
        <IconButton label="The row before" disabled={number <= 0} className="!size-10" onClick={() => onLook(number - 1)}>
          <ChevronLeft size={20} />
        </IconButton>
        <span className="min-w-0 flex-1 truncate text-center">
          Row {number + 1} of {table.rows}: <strong>{row?.name}</strong>
        </span>
        <IconButton label="The next row" disabled={number >= table.rows - 1} className="!size-10" onClick={() => onLook(number + 1)}>
          <ChevronRight size={20} />
        </IconButton>
      </div>
      {row && scene && (
        <>
          <img src={frame(scene, 960)} alt={`The film of row ${number + 1}`} style={{ aspectRatio: row.aspect }} className="mt-1.5 max-h-[44vh] w-full rounded-xl bg-surround object-contain" />
          <ul aria-label="Scenes of the row" className="mt-1.5 flex gap-1.5 overflow-x-auto p-0.5">
            {row.scenes.map((id, n) => (
              <li key={id} className="shrink-0">
                <button
                  type="button"
                  aria-label={`Scene ${n + 1}`}
                  aria-current={id === scene}
                  onClick={() => setLooked(n)}
                  className={`block overflow-hidden rounded-md ${id === scene ? 'ring-2 ring-brass' : ''}`}
                >
                  <Painted src={frame(id, 120)} alt="" style={{ aspectRatio: row.aspect }} className="h-14 bg-surround" />
                </button>
              </li>
            ))}
          </ul>
          {row.faults.map((f) => (
            <p key={`${f.column}${f.sentence}`} className="mt-1.5 text-rowan">
              {f.column && <strong>{f.column}: </strong>}
              {f.sentence}
            </p>
          ))}
          {row.notes.map((note) => (
            <p key={note} className="mt-1.5 text-soft">
              {note}
            </p>
          ))}
        </>
      )}
      {table.faulty > 0 && (
        <div role="alert" className="mt-4 rounded-xl border border-rowan px-4 py-3">
          <p className="font-medium text-rowan">{table.faulty === 1 ? 'One row cannot be made into a film yet:' : `${table.faulty} rows cannot be made into films yet:`}</p>
          <ul className="mt-1 max-h-48 space-y-1 overflow-y-auto">
            {table.faults.map((f) => (
              <li key={f.number}>
                <Button kind="link" onClick={() => onLook(f.number)}>
                  Row {f.number + 1}
                </Button>{' '}
                <span className="text-soft">(line {f.line})</span> {f.faults.map((x) => `${x.column ? `${x.column}: ` : ''}${x.sentence}`).join(' ')}
              </li>
            ))}
          </ul>
          {table.faulty > table.faults.length && <p className="mt-1 text-soft">And {table.faulty - table.faults.length} more.</p>}
          <p className="mt-1 text-soft">Mend them in the spreadsheet and take the table in once more; what the columns are for stays.</p>
        </div>
      )}
    </section>
  )
}
