import { History, Keyboard, Redo2, Settings2, Undo2 } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import { Brand, ThemeSwitch } from '@/ui/brand'
import { openDialog } from '@/project/dialogs'
import { type Place, placeAddress } from '@/project/places'
import { edit, redo, undo } from '@/project/connection'
import { useProject } from '@/project/project'
import { Button, IconButton } from '@/ui/button'
import { KeptState } from '@/project/kept-state'

export function Header({ place, connected }: { place: Place; connected: boolean }) {
  const id = useProject((s) => s.id)
  const title = useProject((s) => s.document.title ?? '')
  const frame = useProject((s) => s.document.frame)
  const undoLabel = useProject((s) => s.undo)
  const redoLabel = useProject((s) => s.redo)
  const [typed, setTyped] = useState<string | null>(null)
  const shorter = Math.min(frame?.width ?? 0, frame?.height ?? 0)

  const accept = () => {
    if (typed?.trim() && typed.trim() !== title) void edit({ edit: 'set_title', title: typed.trim() })
    setTyped(null)
  }
  const tab = (to: string, text: string, on: boolean) => (
    <Link to={to} aria-current={on ? 'page' : undefined} className={`rounded-lg px-3.5 py-1.5 ${on ? 'bg-deep font-semibold' : 'text-soft hover:text-ink'}`}>
      {text}
    </Link>
  )
  return (
    <header className="grid h-[46px] shrink-0 grid-cols-[1fr_auto_1fr] items-center gap-4 border-b hairline px-4">
      <div className="flex min-w-0 items-center gap-3">
        <Brand />
        <input
          id="project-title"
          aria-label="Project title"
          value={typed ?? title}
          maxLength={200}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={accept}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur()
            if (e.key === 'Escape') setTyped(null)
          }}
          className="field-sizing-content h-7 min-w-16 max-w-56 truncate rounded-md bg-transparent px-1.5 font-semibold hover:bg-deep focus:bg-card"
        />
        <KeptState connected={connected} />
      </div>
      <nav aria-label="Places" className="flex gap-1">
        {tab(placeAddress(id, 'contact-sheet'), 'Contact sheet', place === 'contact-sheet')}
        {tab(placeAddress(id, 'desk'), 'Desk', place === 'desk')}
        {tab(placeAddress(id, 'sound'), 'Sound', place === 'sound')}
        {tab(placeAddress(id, 'workshop'), 'Workshop', place === 'workshop')}
      </nav>
      <div className="flex items-center justify-end gap-1">
        <Button kind="quiet" onClick={() => openDialog('settings')} title="Frame and project defaults" className="!px-2 text-soft">
          <Settings2 size={15} />
          <span className="font-mono text-[11.5px]">
            {shorter}p · {frame?.rate}
          </span>
        </Button>
        <IconButton label={undoLabel ? `Undo: ${undoLabel}` : 'Nothing to undo'} disabled={!undoLabel} onClick={undo}>
          <Undo2 size={16} />
        </IconButton>
        <IconButton label={redoLabel ? `Redo: ${redoLabel}` : 'Nothing to redo'} disabled={!redoLabel} onClick={redo}>
          <Redo2 size={16} />
        </IconButton>
        <IconButton label="Named versions" onClick={() => openDialog('versions')}>
          <History size={16} />
        </IconButton>
        <IconButton label="Keys" onClick={() => openDialog('keys')}>
          <Keyboard size={16} />
        </IconButton>
        <ThemeSwitch />
        <Button kind="strong" className="ml-1.5" onClick={() => openDialog('export')}>
          Export…
        </Button>
      </div>
    </header>
  )
}
