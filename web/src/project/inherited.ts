import type { Doc, Photo, Scene } from '@/api/client'
import { inOrder } from './ordering'

/** The look that a photo is linked to, or else the project's. */
export const lookOf = (document: Doc, photo: Photo | undefined) => document.looks?.[photo?.look ?? document.defaults?.look ?? '']

/** A part of a photo as it applies: its own, or its look's, or the project's. */
export function inheritedPart(document: Doc, photo: Photo | undefined, part: 'mount' | 'shadow' | 'correction') {
  return photo?.[part] ?? lookOf(document, photo)?.[part] ?? document.defaults?.[part] ?? {}
}

/** A scene's backdrop: its own, or that of its lowest photo's look, or the project's. */
export function inheritedBackdrop(document: Doc, scene: Scene) {
  const lowest = inOrder(scene.layers).find(([, layer]) => layer.kind === 'photo')?.[1] as Photo | undefined
  return scene.backdrop ?? lookOf(document, lowest)?.backdrop ?? document.defaults?.backdrop ?? {}
}
