import { openDialog } from '@/project/dialogs'
import { useKept } from '@/project/connection'

/** So many changes that wait, in words. */
export const count = (n: number) => (n === 1 ? '1 change waits' : `${n} changes wait`)

/** Whether all is kept; what is not can be looked at, asked for again, or given up. */
export function KeptState({ connected }: { connected: boolean }) {
  const kept = useKept((s) => s.kept)
  const wishes = useKept((s) => s.wishes)
  const why = useKept((s) => s.why)
  const waits = kept === 'waiting' && wishes.length > 0
  const text = kept === 'keeping' ? 'keeping…' : kept === 'refused' ? 'last change not kept' : connected ? 'kept' : 'not connected'
  return (
    <span role="status" className={`truncate text-[11.5px] ${kept === 'refused' || waits || !connected ? 'text-rowan' : 'text-soft'}`}>
      {waits ? (
        <button type="button" className="underline underline-offset-2" title={`${count(wishes.length)}: ${why}`} onClick={() => openDialog('waiting')}>
          {count(wishes.length)}
        </button>
      ) : (
        text
      )}
    </span>
  )
}
