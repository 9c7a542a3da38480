import { Slot } from 'radix-ui'
import { type KeyboardEvent, type ReactNode, useId, useRef, useState } from 'react'
import { later } from './later'
import { say } from './notices'

export type MenuEntry = { label: string; run: () => void; keys?: string; danger?: boolean; disabled?: boolean; checked?: boolean } | 'rule'

const load = () => import('./menu-panel').then((m) => m.MenuPanel)
const MenuPanel = later(load)

/** A button with a menu, which is loaded when somebody comes near it. */
export function Menu({ trigger, entries, align = 'end' }: { trigger: ReactNode; entries: MenuEntry[] | (() => Promise<MenuEntry[]>); align?: 'start' | 'end' }) {
  const [open, setOpen] = useState(false)
  // What is made of commands is made, and loaded, when somebody opens it.
  const [made, setMade] = useState<MenuEntry[] | null>(null)
  const opener = useRef<HTMLElement>(null)
  const id = useId()
  const comeNear = () => void load().catch(() => undefined)
  const show = (opened: boolean) => {
    setMade(null)
    setOpen(opened)
    if (opened && typeof entries === 'function')
      void entries().then(setMade, () => {
        setOpen(false)
        say('This menu could not be loaded. Try it again in a moment, or reload the page: what was kept is safe.', 'fault')
      })
  }
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'ArrowDown') return
    event.preventDefault()
    event.stopPropagation()
    show(true)
  }
  const shown = typeof entries === 'function' ? made : entries
  return (
    <span className="relative inline-flex min-w-0 max-w-full">
      <Slot.Root ref={opener} id={id} aria-haspopup="menu" aria-expanded={open} onPointerEnter={comeNear} onFocus={comeNear} onClick={() => show(!open)} onKeyDown={onKeyDown}>
        {trigger}
      </Slot.Root>
      {open && shown && <MenuPanel entries={shown} align={align} opener={opener} onClose={() => setOpen(false)} />}
    </span>
  )
}
