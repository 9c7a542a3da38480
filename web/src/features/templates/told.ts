import type { TemplateFacts } from '@/api/client'

export const count = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`

/** What a template asks for, in a few words. */
export const takes = (t: TemplateFacts): string =>
  [t.kind === 'film' ? 'whole film' : '', t.pictures ? count(t.pictures, 'picture') : '', t.texts ? count(t.texts, 'text') : '', t.songs ? count(t.songs, 'song') : ''].filter(Boolean).join(' · ')

const FRAME_NAMES: [number, string][] = [
  [16 / 9, '16:9'],
  [1, '1:1'],
  [9 / 16, '9:16'],
]

/** The shape of a frame, by its name or its numbers. */
export const frameName = (shape: number): string => FRAME_NAMES.find(([known]) => Math.abs(known / shape - 1) < 0.01)?.[1] ?? `${shape.toFixed(2)}:1`
