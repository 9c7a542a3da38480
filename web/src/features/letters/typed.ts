import { useCallback, useEffect, useRef, useState } from 'react'
import type { LayerRef } from '@/api/client'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { tryEdits } from '@/project/session'
import { textIn, textOf } from './writing'

/** What was typed is stored when nothing was typed for so long. */
const KEPT_AFTER_MS = 450

/** The text that a layer says while it is typed: shown at once, stored in a moment, and before whoever types it goes. */
export function useTyped(text: LayerRef): { value: string; type: (value: string) => void; keep: () => Promise<void> } {
  const stored = useProject((s) => textIn(s.document, text))
  const [value, setValue] = useState(stored)
  const waiting = useRef(0)
  const unsaved = useRef<string | null>(null)

  const keep = useCallback(async () => {
    clearTimeout(waiting.current)
    const typed = unsaved.current
    if (typed === null) return
    const done = await edit({ edit: 'set_text', texts: [text], text: typed })
    if (unsaved.current === typed || !done) {
      unsaved.current = null
      tryEdits(null)
      if (!done) setValue(textOf(text))
    } else if (unsaved.current !== null) {
      // What was typed meanwhile goes on being shown.
      tryEdits([{ edit: 'set_text', texts: [text], text: unsaved.current }])
    }
  }, [text])

  // What is changed elsewhere (undone, in another window) is what it says, unless something is being typed.
  useEffect(() => {
    if (unsaved.current === null) setValue(stored)
  }, [stored])

  useEffect(() => {
    const leaving = () => void keep()
    window.addEventListener('pagehide', leaving)
    return () => {
      window.removeEventListener('pagehide', leaving)
      void keep()
    }
  }, [keep])

  const type = (typed: string) => {
    setValue(typed)
    unsaved.current = typed
    tryEdits([{ edit: 'set_text', texts: [text], text: typed }])
    clearTimeout(waiting.current)
    waiting.current = window.setTimeout(() => void keep(), KEPT_AFTER_MS)
  }
  return { value, type, keep }
}
