import { Check } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import type { RefObject } from 'react'
import type { MenuEntry } from './menu'

type Props = { entries: MenuEntry[]; align: 'start' | 'end'; opener: RefObject<HTMLElement | null>; onClose: () => void }

/** An open menu, beside what opened it. */
export function MenuPanel({ entries, align, opener, onClose }: Props) {
  const ticked = entries.some((e) => e !== 'rule' && e.checked !== undefined)
  return (
    <DropdownMenu.Root open modal={false} onOpenChange={(open) => !open && onClose()}>
      <DropdownMenu.Trigger asChild>
        <span aria-hidden="true" className="pointer-events-none absolute inset-0" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align={align}
          sideOffset={4}
          aria-labelledby={opener.current?.id}
          // A press on what opened it closes it there.
          onPointerDownOutside={(e) => opener.current?.contains(e.target as Node) && e.preventDefault()}
          onCloseAutoFocus={(e) => {
            e.preventDefault()
            // What was chosen may have put the focus somewhere of its own.
            if (!document.activeElement || document.activeElement === document.body) opener.current?.focus()
          }}
          className="z-50 max-h-[min(420px,80vh)] min-w-52 overflow-y-auto rounded-xl border hairline bg-card p-1.5 text-ink shadow-xl"
        >
          {entries.map((entry, i) =>
            entry === 'rule' ? (
              // biome-ignore lint/suspicious/noArrayIndexKey: rules have no identity of their own
              <DropdownMenu.Separator key={`rule${i}`} className="my-1.5 border-t hairline" />
            ) : (
              <DropdownMenu.Item
                key={entry.label}
                disabled={entry.disabled}
                onSelect={entry.run}
                className={`flex cursor-pointer items-center justify-between gap-6 rounded-md px-2.5 py-1.5 data-[disabled]:cursor-default data-[disabled]:opacity-45 data-[highlighted]:bg-deep ${entry.danger ? 'text-rowan' : ''}`}
              >
                <span className="flex items-center gap-2">
                  {ticked && <Check size={13} aria-hidden className={entry.checked ? '' : 'invisible'} />}
                  {entry.label}
                  {entry.checked && <span className="sr-only">(chosen)</span>}
                </span>
                {entry.keys && <span className="font-mono text-[11px] text-soft">{entry.keys}</span>}
              </DropdownMenu.Item>
            ),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
