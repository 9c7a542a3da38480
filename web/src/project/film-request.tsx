import type { Doc, ExportRequest } from '@/api/client'
import { Choice } from '@/ui/choice'
import { catalogue } from './catalogue'
import { even } from './shapes'

export type SizeChoice = 'own' | 'small'

/** What is asked for where nobody chooses kinds, rates and qualities: a film as it is, or a small one. */
export function filmRequest(frame: Doc['frame'], size: SizeChoice): ExportRequest {
  const [width, height] = [frame?.width ?? 1920, frame?.height ?? 1080]
  const least = Math.min(...catalogue().sizes.map(([, s]) => s))
  const share = size === 'small' ? Math.min(1, least / Math.min(width, height)) : 1
  const plain = { kind: 'mp4', quality: 'good', dither: 'spread', repeat: false, transparent: false, start: 0, end: null } as const
  return { ...plain, width: even(width * share), height: even(height * share), rate: frame?.rate ?? '30' }
}

/** Large or small. */
export function FilmSize({ value, onSet }: { value: SizeChoice; onSet: (size: SizeChoice) => void }) {
  return (
    <Choice
      label="Size of the film"
      value={value}
      choices={[
        ['own', 'Best quality'],
        ['small', 'Small, to send'],
      ]}
      onSet={onSet}
    />
  )
}
