import { create } from 'zustand'
import type { Doc, LayerRef } from '@/api/client'
import { edit } from '@/project/connection'
import { layersOf, useProject } from '@/project/project'
import { chooseLayers, useSession, write } from '@/project/session'
import { stopPlaying } from '@/playback/screen'

/** What is chosen of the text that is written, as places in it (code points). */
export const useLetters = create<{ from: number; to: number }>()(() => ({ from: 0, to: 0 }))

/** The text of a layer in a document. */
export function textIn(document: Doc, ref: LayerRef | null): string {
  const layer = ref && layersOf(document, ref.scene)[ref.layer]
  return layer?.kind === 'text' ? (layer.text ?? []).map((span) => span.text).join('') : ''
}

/** The same as it is now. */
export const textOf = (ref: LayerRef | null): string => textIn(useProject.getState().document, ref)

/** Begins to write a text on the picture; `all`: what it says is chosen, so that typing replaces it. */
export function beginWriting(ref: LayerRef, all = false): void {
  stopPlaying()
  chooseLayers([ref])
  useLetters.setState(all ? { from: 0, to: [...textOf(ref)].length } : { from: [...textOf(ref)].length, to: [...textOf(ref)].length })
  write(ref)
}

/** Ends it. A text that says nothing is taken away again. */
export function endWriting(): void {
  const { writing } = useSession.getState()
  if (!writing) return
  write(null)
  const layer = layersOf(useProject.getState().document, writing.scene)[writing.layer]
  if (layer?.kind === 'text' && !textOf(writing).trim()) void edit({ edit: 'remove_layers', layers: [writing] })
}
