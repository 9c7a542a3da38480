import { Plus, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { edit } from '@/project/connection'
import type { DialogProps } from '@/project/dialogs'
import { newId, useProject } from '@/project/project'
import { Button, IconButton } from '@/ui/button'
import { Dialog } from '@/ui/dialog'

const KNOWN = [
  ['author', 'Author', 'who made it'],
  ['place', 'Place', 'where it plays'],
  ['date', 'Date', 'as it should be read'],
  ['rights', 'Rights', '© and whose it is'],
] as const

/** What the project tells of itself: texts name it in braces. */
export function DetailsDialog({ onClose }: DialogProps) {
  const details = useProject((s) => s.document.details)
  const [name, setName] = useState('')
  const own = Object.entries(details?.own ?? {}).sort(([, a], [, b]) => a.name.localeCompare(b.name))
  const add = async () => {
    if (name.trim() && (await edit({ edit: 'set_details', own: { [newId()]: { name: name.trim(), text: '' } } }))) setName('')
  }
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Project details" description="Texts can name them: {author} is shown as what stands here, wherever it is written.">
      <div className="grid grid-cols-[110px_1fr_28px] items-center gap-x-3 gap-y-2">
        {KNOWN.map(([id, label, hint]) => (
          <Detail key={id} label={label} field={id} hint={hint} value={details?.[id] ?? ''} onSet={(text) => void edit({ edit: 'set_details', [id]: text })} />
        ))}
        {own.map(([id, d]) => (
          <Detail
            key={id}
            label={d.name}
            field={d.name}
            hint=""
            value={d.text ?? ''}
            onSet={(text) => void edit({ edit: 'set_details', own: { [id]: { name: d.name, text } } })}
            onRemove={() => void edit({ edit: 'set_details', own: { [id]: null } })}
          />
        ))}
      </div>
      <form
        className="mt-4 flex gap-2 border-t hairline pt-3"
        onSubmit={(e) => {
          e.preventDefault()
          void add()
        }}
      >
        <input
          aria-label="Name of a detail of your own"
          placeholder="A detail of your own: height, telescope…"
          value={name}
          maxLength={60}
          onChange={(e) => setName(e.target.value)}
          className="h-8 min-w-0 flex-1 rounded-lg border hairline bg-card px-2.5"
        />
        <Button disabled={!name.trim()} onClick={() => void add()}>
          <Plus size={14} /> Add it
        </Button>
      </form>
    </Dialog>
  )
}

type DetailProps = { label: string; field: string; hint: string; value: string; onSet: (text: string) => void; onRemove?: () => void }

function Detail({ label, field, hint, value, onSet, onRemove }: DetailProps) {
  const [typed, setTyped] = useState<string | null>(null)
  const accept = () => {
    if (typed !== null && typed !== value) onSet(typed)
    setTyped(null)
  }
  return (
    <>
      <span className="truncate" title={`{${field}}`}>
        {label}
      </span>
      <input
        aria-label={label}
        value={typed ?? value}
        placeholder={hint}
        maxLength={2000}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={accept}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        className="h-8 min-w-0 rounded-lg border hairline bg-card px-2.5"
      />
      {onRemove ? (
        <IconButton size="small" label={`Remove ${label}`} onClick={onRemove}>
          <Trash2 size={13} />
        </IconButton>
      ) : (
        <span />
      )}
    </>
  )
}
