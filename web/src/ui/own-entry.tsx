import { Pencil, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { IconButton } from './button'

type Props = { name: string /** Label of the field for another name. */; naming: string /** What deleting it does. */; removing: string; onRename?: (name: string) => void; onRemove: () => void }

/** What can be done to an entry of a picker that is the project's own: another name, and away with it. */
export function OwnEntry({ name, naming, removing, onRename, onRemove }: Props) {
  const [typed, setTyped] = useState<string | null>(null)
  const accept = () => {
    const wanted = typed?.trim()
    setTyped(null)
    if (wanted && wanted !== name) onRename?.(wanted)
  }
  return (
    <span className="absolute inset-x-2.5 top-2.5 flex justify-end gap-1">
      {typed !== null && (
        <input
          // biome-ignore lint/a11y/noAutofocus: it appears because somebody asked to rename
          autoFocus
          aria-label={naming}
          value={typed}
          maxLength={100}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={accept}
          onKeyDown={(e) => {
            if (e.key === 'Escape') setTyped(null)
            else if (e.key === 'Enter') accept()
            else return
            e.preventDefault()
            e.stopPropagation()
          }}
          className="h-6 min-w-0 flex-1 rounded border hairline bg-card px-1.5"
        />
      )}
      {onRename && (
        <IconButton size="tiny" label={`Rename ${name}`} className="bg-paper/80" onClick={() => setTyped(name)}>
          <Pencil size={12} />
        </IconButton>
      )}
      <IconButton size="tiny" label={removing} className="bg-paper/80" onClick={onRemove}>
        <Trash2 size={13} />
      </IconButton>
    </span>
  )
}
