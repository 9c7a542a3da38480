import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { client, settled } from '@/api/client'
import { fits } from '@/features/pictures'
import { inOrder } from '@/project/ordering'
import { useProject } from '@/project/project'
import { useSending } from './sending'
import type { Listing } from './upper-bar'

const EVERY_MS = 900

/** Which pictures are listed, how often each is in the film, and how they are on the server's disk. */
export function useListed({ words, shown }: Listing) {
  const id = useProject((s) => s.id)
  const media = useProject((s) => s.document.media)
  const scenes = useProject((s) => s.document.scenes)
  const groups = useProject((s) => s.document.groups)
  const sending = useSending((s) => s.files.length)
  const uses = useMemo(() => {
    const count: Record<string, number> = {}
    for (const container of [...Object.values(scenes ?? {}), ...Object.values(groups ?? {})])
      for (const layer of Object.values(container.layers ?? {})) if (layer.kind === 'photo') count[layer.media] = (count[layer.media] ?? 0) + 1
    return count
  }, [scenes, groups])
  const all = useMemo(() => inOrder(media), [media])
  const pictures = useMemo(
    () => all.filter(([key, m]) => (shown === 'all' || (shown === 'clips' ? m.kind === 'clip' : (shown === 'used') === Boolean(uses[key]))) && fits(words, m.name, m.description, m.file)),
    [all, shown, uses, words],
  )
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
  return { all, pictures, order, uses, unused, states, waiting, missing }
}
