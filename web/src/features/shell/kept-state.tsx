import { useState } from 'react'
import { catalogue, giveUpWaiting, tryNow, useProject } from '@/project/store'
import type { Wish } from '@/project/outbox'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'

const count = (n: number) => (n === 1 ? '1 change waits' : `${n} changes wait`)

/** Whether all is kept; what is not can be looked at, asked for again, or given up. */
export function KeptState({ connected }: { connected: boolean }) {
  const kept = useProject((s) => s.kept)
  const wishes = useProject((s) => s.wishes)
  const why = useProject((s) => s.why)
  const [open, setOpen] = useState(false)
  const waits = kept === 'waiting' && wishes.length > 0
  const text = kept === 'keeping' ? 'keeping…' : kept === 'refused' ? 'last change not kept' : connected ? 'kept' : 'not connected'
  return (
    <>
      <span role="status" className={`truncate text-[11.5px] ${kept === 'refused' || waits || !connected ? 'text-rowan' : 'text-soft'}`}>
        {waits ? (
          <button type="button" className="underline underline-offset-2" title={`${count(wishes.length)}: ${why}`} onClick={() => setOpen(true)}>
            {count(wishes.length)}
          </button>
        ) : (
          text
        )}
      </span>
      {open && waits && (
        <Dialog open onOpenChange={setOpen} title={count(wishes.length)} description={`They are not kept yet: ${why}. They are tried again by themselves, also after this page was closed and opened again.`}>
          <ol aria-label="Changes that wait" className="max-h-60 list-decimal space-y-0.5 overflow-y-auto pl-6">
            {wishes.map((w) => (
              <li key={w.id}>{nameOf(w)}</li>
            ))}
          </ol>
          <div className="mt-5 flex justify-end gap-2">
            <Button
              onClick={() => {
                setOpen(false)
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
      )}
    </>
  )
}

function nameOf(wish: Wish): string {
  if (wish.kind !== 'edits') return { undo: 'Undo', redo: 'Redo', return: 'Return to a version' }[wish.kind]
  const told = wish.edits?.find((e) => e.edit !== 'record')?.edit
  return (told && catalogue().edit_labels[told]) ?? 'A change'
}
