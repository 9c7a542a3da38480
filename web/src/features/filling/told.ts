import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { client, type Filling, settled } from '@/api/client'
import { useProject } from '@/project/project'

const asked = (project: string) => settled(client.GET('/api/projects/{project}/filling', { params: { path: { project } } }))

/** How far the open film is filled, as it is now; undefined until that is known, or without a film. `fault`: why it is not told. */
export function useFilling(project: string | null): { filling: Filling | undefined; fault: string | null; again: () => void } {
  const revision = useProject((s) => s.revision)
  const { data, error, refetch } = useQuery({ queryKey: ['filling', project, revision], queryFn: () => asked(project ?? ''), placeholderData: keepPreviousData, enabled: project !== null })
  return { filling: project === null ? undefined : data, fault: error?.message ?? null, again: () => void refetch() }
}

/** The same, asked for at once. */
export const filledNow = (): Promise<Filling> => asked(useProject.getState().id)

export type FilmZone = Filling['zones'][number]
export type FilmDial = Filling['dials'][number]

export const pictured = (zone: FilmZone): boolean => zone.takes !== 'text' && zone.takes !== 'song'
