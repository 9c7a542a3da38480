import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { client, type Doc, settled } from '@/api/client'
import { fits } from '@/features/pictures'
import { inOrder } from '@/project/ordering'
import { ownPictures, useProject } from '@/project/project'
import { useSending } from './sending'
import { type Listing, useShowing } from './showing'

const EVERY_MS = 900

/** How often each picture is in the film. */
export function usesOf({ scenes, groups }: Pick<Doc, 'scenes' | 'groups'>): Record<string, number> {
  const count: Record<string, number> = {}
  for (const container of [...Object.values(scenes ?? {}), ...Object.values(groups ?? {})])
    for (const layer of Object.values(container.layers ?? {})) if (layer.kind === 'photo') count[layer.media] = (count[layer.media] ?? 0) + 1
  return count
}

/** Where in the film each picture is seen first, in words: its scene, and in a scene of a template its drop zone. */
export function placesOf({ scenes, templates }: Pick<Doc, 'scenes' | 'templates'>): Record<string, string> {
  const places: Record<string, string> = {}
  inOrder(scenes).forEach(([, scene], n) => {
    const zones = inOrder(templates?.[scene.template?.template ?? '']?.zones).map(([k]) => k)
    for (const [, layer] of inOrder(scene.layers)) {
      if (layer.kind !== 'photo' || places[layer.media]) continue
      const zone = layer.zone ? zones.indexOf(layer.zone) + 1 : 0
      places[layer.media] = zone ? `in scene ${n + 1}, zone ${zone}` : `in scene ${n + 1}`
    }
  })
  return places
}

const listed = (media: Doc['media'], uses: Record<string, number>, { words, shown }: Listing) =>
  ownPictures(media).filter(([key, m]) => (shown === 'all' || (shown === 'clips' ? m.kind === 'clip' : (shown === 'used') === Boolean(uses[key]))) && fits(words, m.name, m.description, m.file))

/** The listed pictures as they are now, in order; which of them are chosen, and which are in no scene. */
export function listedNow(): { order: string[]; chosen: string[]; unused: string[]; uses: Record<string, number> } {
  const { document } = useProject.getState()
  const { listing, chosen } = useShowing.getState()
  const uses = usesOf(document)
  const order = listed(document.media, uses, listing).map(([key]) => key)
  return { order, chosen: order.filter((key) => chosen.includes(key)), unused: order.filter((key) => !uses[key]), uses }
}

/** Which pictures are listed, how often each is in the film, and how they are on the server's disk. */
export function useListed(listing: Listing) {
  const id = useProject((s) => s.id)
  const media = useProject((s) => s.document.media)
  const scenes = useProject((s) => s.document.scenes)
  const groups = useProject((s) => s.document.groups)
  const sending = useSending((s) => s.files.length)
  const uses = useMemo(() => usesOf({ scenes, groups }), [scenes, groups])
  const all = useMemo(() => ownPictures(media), [media])
  const pictures = useMemo(() => listed(media, uses, listing), [media, uses, listing])
  const templates = useProject((s) => s.document.templates)
  const places = useMemo(() => placesOf({ scenes, templates }), [scenes, templates])
  const order = useMemo(() => pictures.map(([key]) => key), [pictures])
  const unused = useMemo(() => order.filter((key) => !uses[key]), [order, uses])
  const { data: state } = useQuery({
    queryKey: [
      'state',
      id,
      Object.values(media ?? {})
        .map((m) => m.sha256)
        .join(),
    ],
    queryFn: () => settled(client.GET('/api/projects/{project}/state', { params: { path: { project: id } } })),
    refetchInterval: (q) => (q.state.data?.pictures.some((p) => p.state === 'waiting') || sending > 0 ? EVERY_MS : 10_000),
  })
  const states = useMemo(() => Object.fromEntries((state?.pictures ?? []).map((p) => [p.sha256, p])), [state])
  const waiting = (state?.pictures ?? []).filter((p) => p.state === 'waiting').length
  const missing = all.filter(([, m]) => states[m.sha256]?.state === 'missing')
  return { all, pictures, order, uses, places, unused, states, waiting, missing }
}
