import { useQuery } from '@tanstack/react-query'
import { client, type Heard, settled } from '@/api/client'
import { useProject } from '@/project/project'

export const heardKey = (project: string, revision: number) => ['heard', project, revision] as const

const NOTHING: Heard = { songs: [], beats: [], bars: [] }

/** When songs and beats are heard, as the server works it out for the present document. */
export function useHeard(): Heard {
  const project = useProject((s) => s.id)
  const revision = useProject((s) => s.revision)
  const silent = useProject((s) => !Object.keys(s.document.songs ?? {}).length)
  const { data } = useQuery({
    queryKey: heardKey(project, revision),
    queryFn: () => settled(client.GET('/api/projects/{project}/heard', { params: { path: { project } } })),
    enabled: !silent,
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  })
  return silent ? NOTHING : ((data as Heard | undefined) ?? NOTHING)
}
