import type { Doc, Layer, LayerRef } from '@/api/client'
import type { Applied } from './applied'
import { catalogue } from './catalogue'
import { layersOf } from './project'

/** What there is to know about a layer's kind. */
export const kindOf = (layer: Layer) => catalogue().layer_kinds.find((k) => k.id === layer.kind)

/** A layer's name: its own, that of its picture, what it says, or what its kind is called. */
export function calledOf({ document, applied }: { document: Pick<Doc, 'scenes' | 'groups' | 'media'>; applied: Record<string, Applied> }, ref: LayerRef): string {
  const layer = layersOf(document, ref.scene)[ref.layer]
  if (!layer) return ''
  const picture = layer.kind === 'photo' ? document.media?.[layer.media]?.name : undefined
  return layer.name || picture || applied[`${ref.scene}/${ref.layer}`]?.said || (kindOf(layer)?.label ?? 'Layer')
}
