import { useEffect } from 'react'
import type { DialogProps } from '@/project/dialogs'
import type { Wish } from '@/project/outbox'
import { catalogue } from '@/project/catalogue'
import { giveUpWaiting, tryNow, useKept } from '@/project/connection'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { count } from '@/project/kept-state'

/** Changes that are not kept yet: what they are, and what can be done. It closes when nothing waits any more. */
export function Waiting({ onClose }: DialogProps) {
  const wishes = useKept((s) => s.wishes)
  const why = useKept((s) => s.why)
  const waits = useKept((s) => s.kept === 'waiting' && s.wishes.length > 0)
  useEffect(() => {
    if (!waits) onClose()
  }, [waits, onClose])
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={count(wishes.length)}
      description={`They are not kept yet: ${why}. They are tried again by themselves, also after this page was closed and opened again.`}
    >
      <ol aria-label="Changes that wait" className="max-h-60 list-decimal space-y-0.5 overflow-y-auto pl-6">
        {wishes.map((w) => (
          <li key={w.id}>{nameOf(w)}</li>
        ))}
      </ol>
      <div className="mt-5 flex justify-end gap-2">
        <Button
          onClick={() => {
            onClose()
            giveUpWaiting()
          }}
        >
          Give them up
        </Button>
        <Button kind="strong" onClick={tryNow}>
          Try again now
        </Button>
      </div>
    </Dialog>
  )
}

function nameOf(wish: Wish): string {
  if (wish.kind !== 'edits') return { undo: 'Undo', redo: 'Redo', return: 'Return to a version' }[wish.kind]
  const told = wish.edits?.find((e) => e.edit !== 'record')?.edit
  return (told && catalogue().edit_labels[told]) ?? 'A change'
}
