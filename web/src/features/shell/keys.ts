import { useEffect } from 'react'
import { KEYED } from '@/features/commands'
import { nudgeLayers } from '@/features/layers'
import { typing } from '@/interaction/choosing'
import { plain } from '@/project/command'
import { openDialog, useDialogs } from '@/project/dialogs'
import type { Place } from '@/project/places'
import { useSession } from '@/project/session'

/** The page's keys, also those that open the list of them (`?`) and the command list (Ctrl K). */
export function useKeys(place: Place): void {
  useEffect(() => {
    // Whether the focus was last moved with the Tab key rather than by a click.
    let byTab = false
    const onPointer = () => {
      byTab = false
    }
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Tab') byTab = true
      // It is loaded before the K comes.
      if (event.key === 'Control' || event.key === 'Meta') void import('@/features/commands/command-list').catch(() => undefined)
      if (event.defaultPrevented) return
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault()
        openDialog('commands')
        return
      }
      // One that is being loaded has the keys already.
      const dialog = useDialogs.getState().open ?? document.querySelector('[role=dialog], [role=menu]')
      if (typing(event.target, event.key) || dialog) return
      if (event.key === '?') {
        openDialog('keys')
        return
      }
      // A button reached by keyboard keeps its own space key; one just clicked does not.
      if (event.key === ' ' && event.target instanceof HTMLElement && byTab && event.target.matches('button, a, [role=button]') && !event.target.closest('[data-scene]')) return
      const step = (event.shiftKey ? 10 : 1) * 0.002
      const ways: Record<string, [number, number]> = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }
      const way = ways[event.key]
      if (place === 'desk' && way && plain(event) && useSession.getState().chosenLayers.length && !(event.target instanceof HTMLElement && event.target.closest('[data-scene]'))) {
        event.preventDefault()
        nudgeLayers(...way)
        return
      }
      if (place === 'desk' && event.key === 'Escape') useSession.setState(useSession.getState().chosenKeys.length ? { chosenKeys: [] } : { chosenLayers: [], target: 'layer' })
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
}
