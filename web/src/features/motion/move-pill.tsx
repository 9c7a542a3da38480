import { X } from 'lucide-react'
import { type DialogName, openDialog } from '@/project/dialogs'
import { IconButton } from '@/ui/button'

type Props = { label: string; slot: DialogName; move: string | null; several: boolean; takeAway: string; onTakeAway: () => void }

/** What moves something, or that nothing does: the way to choose another, and to take it away. */
export function MovePill({ label, slot, move, several, takeAway, onTakeAway }: Props) {
  return (
    <div className="flex h-[27px] items-center gap-2">
      <span className="w-[60px] shrink-0">{label}</span>
      <button
        type="button"
        onClick={() => openDialog(slot)}
        className={`h-6 min-w-0 flex-1 truncate rounded-full border px-2.5 text-left text-[12.5px] ${several ? 'border-transparent bg-ink text-on-ink' : 'hairline text-soft hover:bg-deep'}`}
      >
        {move ?? (several ? 'several' : 'none, choose…')}
      </button>
      {several && (
        <IconButton size="tiny" label={takeAway} onClick={onTakeAway}>
          <X size={13} />
        </IconButton>
      )}
    </div>
  )
}
