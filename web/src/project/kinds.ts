import type { Doc, Layer } from '@/api/client'
import { catalogue } from './catalogue'

/** What there is to know about a layer's kind. */
export const kindOf = (layer: Layer) => catalogue().layer_kinds.find((k) => k.id === layer.kind)

/** A layer's name: its own, that of its picture, or what its kind is called. */
export function calledOf(document: Pick<Doc, 'media'>, layer: Layer | undefined): string {
  if (!layer) return ''
  const picture = layer.kind === 'photo' ? document.media?.[layer.media]?.name : undefined
  const text =
    layer.kind === 'text'
      ? (layer.text ?? [])
          .map((s) => s.text)
          .join('')
          .trim()
          .replace(/\s+/g, ' ')
          .slice(0, 40)
      : undefined
  return layer.name || picture || text || (kindOf(layer)?.label ?? 'Layer')
}
