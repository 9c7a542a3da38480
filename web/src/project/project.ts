import { useMemo } from 'react'
import { create } from 'zustand'
import type { Doc, Finding, Layer, LayerRef, Media, Timeline } from '@/api/client'
import type { Applied } from './applied'
import { inOrder } from './ordering'

type Project = {
  id: string
  revision: number
  document: Doc
  timeline: Timeline
  /** What applies to scenes and layers, inherited or their own. */
  applied: Record<string, Applied>
  /** A short text per scene that changes with what it shows. */
  marks: Record<string, string>
  findings: Record<string, Finding>
  /** What undo would take back, and redo do again; null: nothing. */
  undo: string | null
  redo: string | null
}

/** The open project as the server last told it: its truth is never edited here. */
export const useProject = create<Project>()(() => ({}) as Project)

export const newId = (): string => crypto.randomUUID().replaceAll('-', '').slice(0, 16)

/** The layers that a scene or a shared group lists. */
export const layersOf = (document: Pick<Doc, 'scenes' | 'groups'>, container: string): Record<string, Layer> => (document.scenes?.[container] ?? document.groups?.[container])?.layers ?? {}

/** One scene of the document, with the shared groups and pictures that may be in it: it does not change with other scenes. */
export function useSceneAlone(scene: string | null): Pick<Doc, 'scenes' | 'groups' | 'media'> {
  const record = useProject((s) => (scene ? s.document.scenes?.[scene] : undefined))
  const groups = useProject((s) => s.document.groups)
  const media = useProject((s) => s.document.media)
  return useMemo(() => ({ scenes: scene && record ? { [scene]: record } : {}, groups, media }), [scene, record, groups, media])
}

/** A project's own pictures in order: without what stands in empty zones. */
export const ownPictures = (media: Doc['media']): [string, Media][] => inOrder(media).filter(([, m]) => !m.placeholder)

/** Photos of scenes, as edits name them. */
export function photosOf(scenes: string[]): LayerRef[] {
  const { document } = useProject.getState()
  return scenes.flatMap((scene) =>
    Object.entries(layersOf(document, scene))
      .filter(([, l]) => l.kind === 'photo')
      .map(([layer]) => ({ scene, layer })),
  )
}

/** A short text that changes with a picture's looks, for the browser's cache. */
export function pictureMark(media: Media | undefined): string {
  if (!media) return ''
  const text = JSON.stringify([media.sha256, media.turned, media.flipped, media.straighten, media.crop, media.correction, media.clip?.poster])
  let mark = 0
  for (let i = 0; i < text.length; i += 1) mark = (Math.imul(mark, 31) + text.charCodeAt(i)) | 0
  return (mark >>> 0).toString(36)
}

/** The scene that stands at a moment of the film (in a join, the one that comes in). */
export function sceneAt(timeline: Timeline, at: number): string | null {
  let found: string | null = timeline.spans[0]?.scene ?? null
  for (const span of timeline.spans) if (span.join_start <= at) found = span.scene
  return found
}
