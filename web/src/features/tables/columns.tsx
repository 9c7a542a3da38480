import { useState } from 'react'
import type { FilmTable } from '@/api/client'
import { Button } from '@/ui/button'
import { Select } from '@/ui/choice'
import { askForFiles } from '@/ui/files'
import { pasted, TABLES } from './no-table'
import type { Kept } from './told'

/** The table: what each of its columns is for, and what the films are called. */
export function Columns({ table, kept }: { table: FilmTable; kept: Kept }) {
  const used = new Map(table.targets.map((t) => [t.id, t]))
  const choices = [['', 'nothing in the film'] as const, ...table.targets.map((t) => [t.id, t.label] as const)]
  const paste = async () => kept.take(pasted(await navigator.clipboard.readText()))
  return (
    <>
      <section aria-label="The table">
        <h2 className="font-heading text-[17px] font-semibold">{table.name}</h2>
        <p className="text-soft">
          {table.rows === 1 ? 'One row' : `${table.rows} rows`}, {table.columns.length} columns.{' '}
          <Button kind="link" onClick={() => void askForFiles({ accept: TABLES, many: false }).then(([file]) => file && kept.take(file))}>
            Another file
          </Button>
          {' · '}
          <Button kind="link" onClick={() => void paste().catch(() => undefined)}>
            Paste cells
          </Button>
          {' · '}
          <Button kind="link" onClick={kept.forget}>
            Take it away
          </Button>
        </p>
        {table.notes.map((note) => (
          <p key={note} role="status" className="mt-1.5 rounded-lg bg-deep px-3 py-2">
            {note}
          </p>
        ))}
      </section>
      <section aria-label="Columns" className="mt-5">
        <h2 className="font-heading text-[17px] font-semibold">What each column is for</h2>
        <ul className="mt-1.5 space-y-2">
          {table.columns.map((column) => (
            <li key={column.name} className={`grid grid-cols-[1fr_190px] items-center gap-3 rounded-lg border hairline px-3 py-1.5 ${column.target ? 'bg-card' : ''}`}>
              <span className="min-w-0">
                <span className="block truncate font-medium">{column.name}</span>
                <span className="block truncate text-[12.5px] text-soft">{column.sample || 'empty in the first row'}</span>
              </span>
              <span title={used.get(column.target)?.about}>
                <Select
                  label={`What “${column.name}” is for`}
                  value={column.target}
                  choices={choices}
                  onSet={(target) => void kept.change({ mapping: { [column.name]: target } })}
                  className="!h-10 w-full"
                />
              </span>
            </li>
          ))}
        </ul>
      </section>
      <Naming table={table} onSet={(pattern) => void kept.change({ pattern })} />
    </>
  )
}

/** What the files of the films are called: words, and columns in braces. */
function Naming({ table, onSet }: { table: FilmTable; onSet: (pattern: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null)
  const keep = () => {
    if (typed !== null && typed !== table.pattern) onSet(typed)
    setTyped(null)
  }
  return (
    <section aria-label="Names of the films" className="mt-5">
      <h2 className="font-heading text-[17px] font-semibold">What the films are called</h2>
      <input
        aria-label="Pattern of the names"
        value={typed ?? table.pattern}
        maxLength={200}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => {
          if (e.key === 'Enter') keep()
          if (e.key === 'Escape') setTyped(null)
        }}
        className="mt-1.5 h-10 w-full rounded-lg border hairline bg-card px-3"
      />
      <p className="mt-1.5 flex flex-wrap gap-1.5">
        {[...table.columns.map((c) => c.name), 'number'].map((name) => (
          <Button key={name} size="small" onClick={() => onSet(`${typed ?? table.pattern} {${name}}`)}>
            + {name}
          </Button>
        ))}
      </p>
      <p className="mt-1 truncate text-soft">{table.names.slice(0, 3).join(', ')}…</p>
    </section>
  )
}
