import { Popover } from 'radix-ui'
import { type KeyboardEvent, type RefObject, useRef } from 'react'
import { useSession } from '@/project/session'
import { putInPlace } from './commands'

const NAMES = ['Top left', 'Top', 'Top right', 'Left', 'Middle', 'Right', 'Bottom left', 'Bottom', 'Bottom right']

/** Nine places of the frame, or of its title-safe area where that is shown, as a small picture of them: the arrows go from one to the next. */
export function NinePlaces({ opener, onClose }: { opener: RefObject<HTMLElement | null>; onClose: () => void }) {
  const grid = useRef<HTMLDivElement>(null)
  const safe = useSession((s) => s.safe)
  const put = (place: number) => {
    onClose()
    putInPlace(place)
  }
  const go = (event: KeyboardEvent) => {
    const buttons = [...(grid.current?.querySelectorAll('button') ?? [])]
    const at = buttons.indexOf(document.activeElement as HTMLButtonElement)
    const [x, y] = [at % 3, Math.floor(at / 3)]
    const next = { ArrowLeft: at - (x > 0 ? 1 : 0), ArrowRight: at + (x < 2 ? 1 : 0), ArrowUp: at - (y > 0 ? 3 : 0), ArrowDown: at + (y < 2 ? 3 : 0) }[event.key]
    if (next === undefined) return
    event.preventDefault()
    event.stopPropagation()
    buttons[next]?.focus()
  }
  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor asChild>
        <span aria-hidden="true" className="pointer-events-none absolute inset-0" />
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="Nine places"
          onPointerDownOutside={(e) => opener.current?.contains(e.target as Node) && e.preventDefault()}
          onOpenAutoFocus={(e) => {
            e.preventDefault()
            grid.current?.querySelectorAll('button')[4]?.focus()
          }}
          onCloseAutoFocus={(e) => {
            e.preventDefault()
            opener.current?.focus()
          }}
          className="z-50 rounded-xl border hairline bg-card p-2 text-ink shadow-xl"
        >
          <div ref={grid} role="group" aria-label="Where it goes" onKeyDown={go} className={`grid aspect-video w-36 grid-cols-3 gap-px rounded border hairline bg-rule ${safe ? 'p-1.5' : ''}`}>
            {NAMES.map((name, place) => (
              <button
                key={name}
                type="button"
                aria-label={name}
                title={name}
                onClick={() => put(place)}
                className={`flex bg-paper p-1 hover:bg-deep focus-visible:bg-deep focus-visible:-outline-offset-2 ${['items-start', 'items-center', 'items-end'][Math.floor(place / 3)]} ${['justify-start', 'justify-center', 'justify-end'][place % 3]}`}
              >
                <span className="h-2.5 w-3.5 rounded-[2px] bg-brass/80" />
              </button>
            ))}
          </div>
          <p className="mt-1.5 text-center text-[11.5px] text-soft">{safe ? 'in the title-safe area' : 'in the frame'}</p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
