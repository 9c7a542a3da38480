import type { Filling } from '@/api/client'
import type { FilmDial, FilmZone } from './told'

/** What is asked of somebody who fills: one thing at a time. `scene`: where the answer is seen. */
export type Question =
  | { id: string; kind: 'name'; title: string; scene: string }
  | { id: string; kind: 'words'; title: string; scene: string; zone: FilmZone }
  | { id: string; kind: 'dial'; title: string; scene: string; dial: FilmDial }
  | { id: string; kind: 'music' | 'length' | 'order'; title: string; scene: string }

const TITLES = { music: 'Music', length: 'Length', order: 'Order' } as const

/** All questions about a film in the order in which they matter. `title`: that of the project. */
export function questionsOf(filling: Filling, title: string): Question[] {
  const words = filling.zones.filter((z) => z.takes === 'text')
  const [first] = words
  const named = first && (first.plain || first.held === title) ? first : undefined
  const scene = named?.scene ?? filling.zones[0]?.scene ?? ''
  return [
    { id: 'name', kind: 'name', title: 'Name of the film', scene },
    ...words.filter((z) => z !== named).map((zone): Question => ({ id: `${zone.scene} ${zone.zone}`, kind: 'words', title: zone.name, scene: zone.scene, zone })),
    ...filling.dials.map((dial): Question => ({ id: `${dial.kind} ${dial.name}`, kind: 'dial', title: dial.name, scene: dial.scene, dial })),
    ...(['music', 'length', 'order'] as const).map((kind): Question => ({ id: kind, kind, title: TITLES[kind], scene })),
  ]
}
