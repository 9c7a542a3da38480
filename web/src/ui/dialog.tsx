import { X } from 'lucide-react'
import { Dialog as Primitive } from 'radix-ui'
import type { ReactNode } from 'react'

type Props = { open: boolean; onOpenChange: (open: boolean) => void; title: string; description?: string; children: ReactNode; side?: boolean; wide?: boolean }

/** A dialog in the middle, or (`side`) a panel along the right edge. */
export function Dialog({ open, onOpenChange, title, description, children, side, wide }: Props) {
  const place = side
    ? 'right-0 top-0 h-full w-[420px] border-l overflow-y-auto'
    : `left-1/2 top-1/2 max-h-[92vh] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-2xl border ${wide ? 'w-[min(1080px,94vw)]' : 'w-[520px]'}`
  return (
    <Primitive.Root open={open} onOpenChange={onOpenChange}>
      <Primitive.Portal>
        <Primitive.Overlay className="fixed inset-0 z-30 bg-black/40" />
        <Primitive.Content
          aria-describedby={description ? undefined : ''}
          // What was chosen in it may have put the focus somewhere of its own.
          onCloseAutoFocus={(e) => document.activeElement !== document.body && e.preventDefault()}
          className={`fixed z-40 hairline bg-paper p-6 text-ink shadow-2xl ${place}`}
        >
          <div className="mb-4 pr-8">
            <Primitive.Title className="font-heading text-xl font-semibold">{title}</Primitive.Title>
            {description && <Primitive.Description className="mt-1 text-soft">{description}</Primitive.Description>}
          </div>
          {children}
          {/* The last of all, so that what the dialog is for has the focus first. */}
          <Primitive.Close aria-label="Close" className="absolute right-6 top-6 rounded-md p-1 hover:bg-deep">
            <X size={18} />
          </Primitive.Close>
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  )
}
