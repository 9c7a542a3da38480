import { useMemo } from 'react'
import { useShallow } from 'zustand/react/shallow'
import type { Edit, Layer, LayerRef, Photo, Scene, TextLayer } from '@/api/client'
import type { Values } from '@/project/common'
import { layersOf, photosOf, useProject } from './project'
import { useSession } from './session'

/** What the details speak of: the chosen scenes, and of them the chosen layers or (none chosen) every photo. */
export type Chosen = {
  ids: string[]
  /** The last chosen scene, which is seen. */
  scene: string
  scenes: Scene[]
  refs: LayerRef[]
  layers: Layer[]
  photoRefs: LayerRef[]
  photos: Photo[]
  textRefs: LayerRef[]
  texts: TextLayer[]
  /** Layers that are no photos. */
  others: Layer[]
  onScenes: (partial: Values) => Edit
  onLayers: (partial: Values) => Edit
  onPhotos: (partial: Values) => Edit
}

/** It changes with the records it holds, not with the rest of the document. */
export function useChosen(): Chosen | null {
  const chosenScenes = useSession((s) => s.chosenScenes)
  const chosenLayers = useSession((s) => s.chosenLayers)
  const records = useProject(useShallow((s) => chosenScenes.map((id) => s.document.scenes?.[id])))
  const found = useProject(useShallow((s) => (chosenLayers.length ? chosenLayers : photosOf(chosenScenes)).map((r) => layersOf(s.document, r.scene)[r.layer])))
  return useMemo(() => {
    const ids = chosenScenes.filter((_, i) => records[i])
    const scenes = records.filter((s): s is Scene => Boolean(s))
    if (!scenes.length) return null
    const refs = (chosenLayers.length ? chosenLayers : photosOf(chosenScenes)).filter((_, i) => found[i])
    const layers = found.filter((l): l is Layer => Boolean(l))
    const photoRefs = refs.filter((_, i) => layers[i]?.kind === 'photo')
    return {
      ids,
      scene: ids.at(-1) ?? '',
      scenes,
      refs,
      layers,
      photoRefs,
      photos: layers.filter((l): l is Photo => l.kind === 'photo'),
      textRefs: refs.filter((_, i) => layers[i]?.kind === 'text'),
      texts: layers.filter((l): l is TextLayer => l.kind === 'text'),
      others: layers.filter((l) => l.kind !== 'photo'),
      onScenes: (partial) => ({ edit: 'set_scenes', ids, ...partial }),
      onLayers: (partial) => ({ edit: 'set_layers', layers: refs, ...partial }),
      onPhotos: (partial) => ({ edit: 'set_layers', layers: photoRefs, ...partial }),
    }
  }, [chosenScenes, chosenLayers, records, found])
}

/** Whether a layer is a text. */
export const isText = (ref: { scene: string; layer: string | null }): boolean => ref.layer !== null && layersOf(useProject.getState().document, ref.scene)[ref.layer]?.kind === 'text'

export type PartProps = { chosen: Chosen }
