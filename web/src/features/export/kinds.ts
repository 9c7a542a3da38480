import { catalogue } from '@/project/catalogue'

export type Kind = ReturnType<typeof catalogue>['kinds'][number]

/** The kind of export with this id; exports of before there were kinds are MP4 films. */
export function kindNamed(id: string | undefined): Kind {
  const { kinds } = catalogue()
  return kinds.find((k) => k.id === id) ?? (kinds[0] as Kind)
}
