import { Search, X } from 'lucide-react'
import { type KeyboardEvent, useRef } from 'react'
import { useArrangement } from '@/ui/arrangement'
import { IconButton } from '@/ui/button'
import type { ChapterId } from './chapters'
import { endFinding, findNumber, useFinder } from './finder'

type Props = { chapters: readonly { id: ChapterId; label: string }[]; open: ChapterId; marked: (chapter: ChapterId) => boolean }

/** The chapters as index tabs of paper, which stay in reach; or the field that finds a number by its name. */
export function Dividers({ chapters, open, marked }: Props) {
  const { sought } = useFinder()
  const row = useRef<HTMLDivElement>(null)
  if (sought !== null) return <Finder sought={sought} />
  const go = (event: KeyboardEvent) => {
    const at = chapters.findIndex((c) => c.id === open)
    const to = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: chapters.length - 1 }[event.key]
    const next = to === undefined ? undefined : chapters[(to + chapters.length) % chapters.length]
    if (!next) return
    event.preventDefault()
    event.stopPropagation()
    useArrangement.setState({ chapter: next.id })
    row.current?.querySelector<HTMLElement>(`[data-chapter=${next.id}]`)?.focus()
  }
  return (
    <div className="flex h-[34px] shrink-0 items-end gap-px bg-deep pl-2 pr-1 shadow-[inset_0_-1px_var(--rule)]">
      <div ref={row} role="tablist" aria-label="Chapters of the details" onKeyDown={go} className="flex min-w-0 flex-1 items-end gap-px">
        {chapters.map(({ id, label }) => (
          <button
            key={id}
            type="button"
            role="tab"
            data-chapter={id}
            aria-selected={id === open}
            aria-controls="chapter"
            tabIndex={id === open ? 0 : -1}
            onClick={() => useArrangement.setState({ chapter: id })}
            className={`relative min-w-0 rounded-t-md border border-b-0 px-[7px] text-[12.5px] leading-none hairline ${id === open ? 'h-[29px] bg-paper font-semibold shadow-[0_1px_var(--paper)]' : 'h-[25px] bg-card/60 text-soft hover:text-ink'}`}
          >
            {label}
            {marked(id) && (
              <span title="Something in it differs from the default" className="absolute right-[3px] top-[3px] size-[5px] rounded-full bg-brass">
                <span className="sr-only">(something in it differs from the default)</span>
              </span>
            )}
          </button>
        ))}
      </div>
      <IconButton label="Find a number (/)" size="tiny" className="mb-1" onClick={findNumber}>
        <Search size={13} />
      </IconButton>
    </div>
  )
}

function Finder({ sought }: { sought: string }) {
  const onKeyDown = (event: KeyboardEvent) => {
    const first = document.querySelector<HTMLElement>('#chapter [data-found] :is(input, select, button[role=radio])')
    if (event.key === 'Escape') endFinding()
    else if ((event.key === 'Enter' || event.key === 'ArrowDown') && first) first.focus()
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  return (
    <div role="search" className="flex h-[34px] shrink-0 items-center gap-1.5 border-b hairline bg-deep pl-2 pr-1">
      <Search size={13} className="shrink-0 text-soft" />
      <input
        // biome-ignore lint/a11y/noAutofocus: it appears because somebody looks for something
        autoFocus
        aria-label="Find a number"
        value={sought}
        placeholder="Find a number by its name"
        onChange={(e) => useFinder.setState({ sought: e.target.value })}
        onKeyDown={onKeyDown}
        className="h-6 min-w-0 flex-1 rounded border hairline bg-card px-2"
      />
      <IconButton label="Back to the chapters" size="tiny" onClick={endFinding}>
        <X size={13} />
      </IconButton>
    </div>
  )
}
