import { endSession } from '@/api/client'
import type { Place } from './header'
import { useEffect, useState } from 'react'
import { create } from 'zustand'
import { typing } from '@/interaction/choosing'
import { startPlaying, stepFrames, stopPlaying, togglePlaying } from '@/playback/screen'
import { inOrder } from '@/project/ordering'
import { edit, layersOf, newId, redo, undo, useProject } from '@/project/store'
import { Dialog } from '@/ui/dialog'
import { say } from '@/ui/notices'
import { toggleFullScreen } from '@/features/easel'
import { chooseAllKeys, copyKeys, deleteKeys, pasteKeys, setKeysHere, stepToKey } from '@/features/lanes'
import { duplicateLayers, groupLayers, nudgeLayers, removeLayers } from '@/features/layers/layer-actions'

type Command = { id: string; label: string; keys: string; desk?: boolean; match: (event: KeyboardEvent) => boolean; run: () => void }

const plain = (e: KeyboardEvent) => !e.ctrlKey && !e.metaKey && !e.altKey
const control = (e: KeyboardEvent, key: string, shift = false) => (e.ctrlKey || e.metaKey) && e.shiftKey === shift && e.key.toLowerCase() === key

export async function duplicateScenes(): Promise<void> {
  const { chosenScenes, document } = useProject.getState()
  const copies = inOrder(document.scenes).filter(([k]) => chosenScenes.includes(k)).map(([id]) => ({ id, copy_id: newId() }))
  if (copies.length && (await edit({ edit: 'duplicate_scenes', copies }))) useProject.setState({ chosenScenes: copies.map((c) => c.copy_id) })
}

export async function removeScenes(): Promise<void> {
  const { chosenScenes, document } = useProject.getState()
  if (!chosenScenes.length) return
  const order = inOrder(document.scenes).map(([k]) => k)
  const after = order.slice(Math.max(...chosenScenes.map((c) => order.indexOf(c))) + 1)[0] ?? order.filter((k) => !chosenScenes.includes(k)).at(-1)
  if (await edit({ edit: 'remove_scenes', ids: chosenScenes })) useProject.setState({ chosenScenes: after ? [after] : [] })
}

/** All keyframes of the scene if one is chosen, else all its layers if one is, else all scenes. */
function chooseAll(): void {
  const { chosenKeys, chosenLayers, chosenScenes, document } = useProject.getState()
  const scene = chosenScenes.at(-1)
  if (chosenKeys.length) chooseAllKeys()
  else if (chosenLayers.length && scene) useProject.setState({ chosenLayers: inOrder(layersOf(document, scene)).map(([layer]) => ({ scene, layer })) })
  else useProject.setState({ chosenScenes: inOrder(document.scenes).map(([id]) => id) })
}

const COMMANDS: Command[] = [
  { id: 'play', label: 'Play or pause', keys: 'Space', desk: true, match: (e) => plain(e) && e.key === ' ', run: togglePlaying },
  { id: 'back', label: 'One frame back', keys: ',', desk: true, match: (e) => plain(e) && e.key === ',', run: () => stepFrames(-1) },
  { id: 'on', label: 'One frame on', keys: '.', desk: true, match: (e) => plain(e) && e.key === '.', run: () => stepFrames(1) },
  { id: 'start', label: 'To the start of the film', keys: 'Home', desk: true, match: (e) => plain(e) && e.key === 'Home', run: () => stepFrames(-1e9) },
  { id: 'end', label: 'To the end of the film', keys: 'End', desk: true, match: (e) => plain(e) && e.key === 'End', run: () => stepFrames(1e9) },
  {
    id: 'loop', label: 'Loop the chosen scene, or not', keys: 'O', desk: true, match: (e) => plain(e) && e.key.toLowerCase() === 'o',
    run: () => {
      const { loopScene, playing } = useProject.getState()
      useProject.setState({ loopScene: !loopScene })
      if (playing) {
        stopPlaying()
        startPlaying()
      }
    },
  },
  { id: 'live', label: 'Look at the film live', keys: '1', desk: true, match: (e) => plain(e) && e.key === '1', run: () => useProject.setState({ looking: 'live' }) },
  { id: 'views', label: 'Look at opening and closing view', keys: '2', desk: true, match: (e) => plain(e) && e.key === '2', run: () => { stopPlaying(); useProject.setState({ looking: 'views' }) } },
  { id: 'plan', label: 'Look at the plan', keys: '3', desk: true, match: (e) => plain(e) && e.key === '3', run: () => useProject.setState({ looking: 'plan' }) },
  { id: 'record', label: 'Record changes as keyframes, or not', keys: 'R', desk: true, match: (e) => plain(e) && e.key.toLowerCase() === 'r', run: () => useProject.setState({ recording: !useProject.getState().recording }) },
  { id: 'key', label: 'Set keyframes at the playhead', keys: 'K', desk: true, match: (e) => plain(e) && e.key.toLowerCase() === 'k', run: () => void setKeysHere() },
  { id: 'key-before', label: 'To the keyframe before', keys: 'Shift ,', desk: true, match: (e) => plain(e) && (e.key === '<' || e.key === ';' || (e.shiftKey && e.key === ',')), run: () => stepToKey(-1) },
  { id: 'key-next', label: 'To the next keyframe', keys: 'Shift .', desk: true, match: (e) => plain(e) && (e.key === '>' || e.key === ':' || (e.shiftKey && e.key === '.')), run: () => stepToKey(1) },
  { id: 'all', label: 'Choose all keyframes, layers or scenes: of what is chosen now', keys: 'Ctrl A', desk: true, match: (e) => control(e, 'a'), run: chooseAll },
  { id: 'copy', label: 'Copy the chosen keyframes', keys: 'Ctrl C', desk: true, match: (e) => control(e, 'c') && useProject.getState().chosenKeys.length > 0, run: copyKeys },
  { id: 'paste', label: 'Paste keyframes at the playhead', keys: 'Ctrl V', desk: true, match: (e) => control(e, 'v'), run: () => void pasteKeys() },
  { id: 'full', label: 'Full screen, or back', keys: 'F', desk: true, match: (e) => plain(e) && e.key.toLowerCase() === 'f', run: toggleFullScreen },
  { id: 'undo', label: 'Undo', keys: 'Ctrl Z', match: (e) => control(e, 'z'), run: () => void undo() },
  { id: 'redo', label: 'Redo', keys: 'Ctrl Shift Z', match: (e) => control(e, 'z', true) || control(e, 'y'), run: () => void redo() },
  { id: 'duplicate', label: 'Duplicate the chosen layers or scenes', keys: 'Ctrl D', desk: true, match: (e) => control(e, 'd'), run: () => void (useProject.getState().chosenLayers.length ? duplicateLayers() : duplicateScenes()) },
  { id: 'group', label: 'Group the chosen layers', keys: 'Ctrl G', desk: true, match: (e) => control(e, 'g'), run: () => void groupLayers() },
  { id: 'delete', label: 'Delete the chosen keyframes, layers or scenes', keys: 'Delete', desk: true, match: (e) => plain(e) && e.key === 'Delete', run: () => void (useProject.getState().chosenKeys.length ? deleteKeys() : useProject.getState().chosenLayers.length ? removeLayers() : removeScenes()) },
]

/** Actions of the command list that have no key. */
const KEYLESS: Command[] = [
  { id: 'sign-out-others', label: 'Sign out all other browsers', keys: '', match: () => false, run: () => void endSession(true).then(() => say('All other browsers are signed out.'), (e: Error) => say(e.message, 'fault')) },
  { id: 'sign-out', label: 'Sign out this browser', keys: '', match: () => false, run: () => void endSession(false).then(() => location.assign('/'), (e: Error) => say(e.message, 'fault')) },
]

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
      if (control(event, 'k')) {
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
      const command = COMMANDS.find((c) => (place === 'desk' || !c.desk) && c.match(event))
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
          {[...COMMANDS.map((c) => [c.label, c.keys] as const), ...LISTED].map(([label, keys]) => (
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

function CommandList({ place, onClose }: { place: string; onClose: () => void }) {
  const [typed, setTyped] = useState('')
  const [at, setAt] = useState(0)
  const found = [...COMMANDS, ...KEYLESS].filter((c) => (place === 'desk' || !c.desk) && c.label.toLowerCase().includes(typed.trim().toLowerCase()))
  const run = (index: number) => {
    onClose()
    found[index]?.run()
  }
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Commands">
      <input
        role="combobox"
        aria-label="Find a command"
        aria-expanded="true"
        aria-controls="commands"
        aria-activedescendant={found[at] ? `command-${found[at].id}` : undefined}
        value={typed}
        placeholder="What do you want to do?"
        onChange={(e) => {
          setTyped(e.target.value)
          setAt(0)
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown') setAt(Math.min(found.length - 1, at + 1))
          else if (e.key === 'ArrowUp') setAt(Math.max(0, at - 1))
          else if (e.key === 'Enter') run(at)
          else return
          e.preventDefault()
        }}
        className="h-9 w-full rounded-lg border hairline bg-card px-3"
      />
      <div id="commands" role="listbox" aria-label="Commands" className="mt-3 max-h-80 overflow-y-auto">
        {found.map((c, i) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the field above handles the keys of the whole list
          <div key={c.id} id={`command-${c.id}`} role="option" tabIndex={-1} aria-selected={i === at} onClick={() => run(i)} className={`flex cursor-pointer justify-between rounded-md px-3 py-1.5 ${i === at ? 'bg-deep' : ''}`}>
            {c.label} <span className="font-mono text-[12px] text-soft">{c.keys}</span>
          </div>
        ))}
        {!found.length && <p className="px-3 py-1.5 text-soft">No command has these words.</p>}
      </div>
    </Dialog>
  )
}
