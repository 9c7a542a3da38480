import { useEffect } from 'react'
import { create } from 'zustand'
import { CommandList, KEYED, plain } from '@/features/commands'
import { nudgeLayers } from '@/features/layers/layer-actions'
import { typing } from '@/interaction/choosing'
import type { Place } from '@/project/places'
import { useProject } from '@/project/store'
import { Dialog } from '@/ui/dialog'

const LISTED: [string, string][] = [
  ['Go through the run sheet or contact sheet', 'Arrows'],
  ['Choose a range', 'Shift + arrows or click'],
  ['Choose one more', 'Ctrl + click'],
  ['Move the chosen scenes or pictures', 'Alt + arrows'],
  ['Enlarge a picture (contact sheet)', 'Space'],
  ['Put the chosen pictures into the film', 'Enter'],
  ['Move a handle, or the chosen layers', 'Arrows (Shift: ten steps)'],
  ['Move freely, without snapping', 'Ctrl + drag'],
  ['Copy a layer', 'Alt + drag'],
  ['Go through keyframes', 'Arrows (Shift: choose more)'],
  ['Move the chosen keyframes in time', 'Alt + ← →'],
  ['Change their value', 'Alt + ↑ ↓'],
  ['Enlarge the lanes’ time', 'Ctrl + wheel'],
  ['Move the picture in its window', 'Double click'],
  ['Give up a drag', 'Escape'],
  ['Find any command', 'Ctrl K'],
]

const useKeys = create<{ open: false | 'keys' | 'commands' }>()(() => ({ open: false }))
export const openKeys = () => useKeys.setState({ open: 'keys' })

/** The page's keys, the list of them (`?`) and the command list (Ctrl K). */
export function Keys({ place }: { place: Place }) {
  const open = useKeys((s) => s.open)
  useEffect(() => {
    // Whether the focus was last moved with the Tab key rather than by a click.
    let byTab = false
    const onPointer = () => {
      byTab = false
    }
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Tab') byTab = true
      if (event.defaultPrevented) return
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault()
        useKeys.setState({ open: 'commands' })
        return
      }
      const dialog = document.querySelector('[role=dialog], [role=menu]')
      if (typing(event.target, event.key) || dialog) return
      if (event.key === '?') {
        useKeys.setState({ open: 'keys' })
        return
      }
      // A button reached by keyboard keeps its own space key; one just clicked does not.
      if (event.key === ' ' && event.target instanceof HTMLElement && byTab && event.target.matches('button, a, [role=button]') && !event.target.closest('[data-scene]')) return
      const step = (event.shiftKey ? 10 : 1) * 0.002
      const ways: Record<string, [number, number]> = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }
      const way = ways[event.key]
      if (place === 'desk' && way && plain(event) && useProject.getState().chosenLayers.length && !(event.target instanceof HTMLElement && event.target.closest('[data-scene]'))) {
        event.preventDefault()
        nudgeLayers(...way)
        return
      }
      if (place === 'desk' && event.key === 'Escape') useProject.setState(useProject.getState().chosenKeys.length ? { chosenKeys: [] } : { chosenLayers: [], target: 'layer' })
      const command = KEYED.find((c) => (!c.place || c.place === place) && c.match?.(event))
      if (command) {
        event.preventDefault()
        command.run()
      }
    }
    window.addEventListener('keydown', onKey)
    window.addEventListener('pointerdown', onPointer, true)
    return () => {
      window.removeEventListener('keydown', onKey)
      window.removeEventListener('pointerdown', onPointer, true)
    }
  }, [place])
  const close = () => useKeys.setState({ open: false })
  if (open === 'keys')
    return (
      <Dialog open onOpenChange={(o) => !o && close()} title="Keys">
        <dl className="grid grid-cols-[1fr_auto] gap-x-6 gap-y-1.5">
          {[...KEYED.map((c) => [c.label, c.keys ?? ''] as const), ...LISTED].map(([label, keys]) => (
            <div key={label} className="contents">
              <dt>{label}</dt>
              <dd className="font-mono text-[12px] text-soft">{keys}</dd>
            </div>
          ))}
        </dl>
      </Dialog>
    )
  if (open === 'commands') return <CommandList place={place} onClose={close} />
  return null
}
