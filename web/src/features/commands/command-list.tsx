import { useMemo, useState } from 'react'
import { useLocation } from 'react-router'
import type { Command } from '@/project/command'
import type { DialogProps } from '@/project/dialogs'
import { goTo, placeAt } from '@/project/places'
import { Dialog } from '@/ui/dialog'
import { found } from '@/ui/finding'
import { listed } from './listed'

const MOST_SHOWN = 60

const calledSo = (command: Command) => command.label
const otherwise = (command: Command) => command.words ?? ''

/** Every action by its name: what fits what is typed, the best first; what cannot be done now is not offered. */
export function CommandList({ onClose }: DialogProps) {
  const place = placeAt(useLocation().pathname)
  const [typed, setTyped] = useState('')
  const [at, setAt] = useState(0)
  const commands = useMemo(() => listed(place), [place])
  const fitting = useMemo(() => found(typed, commands, calledSo, otherwise).slice(0, MOST_SHOWN), [typed, commands])
  const run = (command: Command | undefined) => {
    onClose()
    if (!command) return
    if (command.at && command.at !== place) goTo(command.at)
    // Once the list has let go of the focus: what is done may put it somewhere.
    setTimeout(command.run)
  }
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Commands">
      <input
        role="combobox"
        aria-label="Find a command"
        aria-expanded="true"
        aria-controls="commands"
        aria-activedescendant={fitting[at] ? `command-${fitting[at].id}` : undefined}
        value={typed}
        placeholder="What do you want to do?"
        onChange={(e) => {
          setTyped(e.target.value)
          setAt(0)
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown') setAt(Math.min(fitting.length - 1, at + 1))
          else if (e.key === 'ArrowUp') setAt(Math.max(0, at - 1))
          else if (e.key === 'Enter') run(fitting[at])
          else return
          e.preventDefault()
        }}
        className="h-9 w-full rounded-lg border hairline bg-card px-3"
      />
      <div id="commands" role="listbox" aria-label="Commands" className="mt-3 h-80 overflow-y-auto">
        {fitting.map((c, i) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the field above handles the keys of the whole list
          <div
            key={c.id}
            ref={i === at ? (row) => row?.scrollIntoView({ block: 'nearest' }) : undefined}
            id={`command-${c.id}`}
            role="option"
            tabIndex={-1}
            aria-selected={i === at}
            onClick={() => run(c)}
            className={`flex cursor-pointer justify-between gap-4 rounded-md px-3 py-1.5 ${i === at ? 'bg-deep' : ''}`}
          >
            <span className="truncate">{c.label}</span> <span className="shrink-0 font-mono text-[12px] text-soft">{c.keys}</span>
          </div>
        ))}
        {!fitting.length && <p className="px-3 py-1.5 text-soft">No command has these words.</p>}
      </div>
      <p className="mt-2 text-[12px] text-soft">{typed ? `${fitting.length} of ${commands.length} that can be done now` : `${commands.length} can be done now: type what you want to do`}</p>
    </Dialog>
  )
}
