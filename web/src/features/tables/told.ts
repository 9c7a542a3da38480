import { useQuery, useQueryClient } from '@tanstack/react-query'
import { client, type FilmTable, Refused, sendTable, settled } from '@/api/client'
import { useProject } from '@/project/project'
import { say } from '@/ui/notices'

/** The table of the open project: null if there is none, undefined until that is known. `change` and `take` answer when it is kept. */
export function useTable() {
  const project = useProject((s) => s.id)
  const revision = useProject((s) => s.revision)
  const queries = useQueryClient()
  const key = ['table', project, revision]
  const path = { params: { path: { project } } }
  const { data, dataUpdatedAt } = useQuery({
    queryKey: key,
    queryFn: () =>
      settled(client.GET('/api/projects/{project}/table', path)).catch((error) => {
        if (error instanceof Refused && error.code === 'table.none') return null
        throw error
      }),
    placeholderData: (before) => before,
  })
  const doing = async (what: () => Promise<FilmTable | null>) => {
    try {
      queries.setQueryData(key, await what())
      await queries.invalidateQueries({ queryKey: ['table', project] })
    } catch (error) {
      say((error as Error).message, 'fault')
    }
  }
  return {
    table: data,
    /** Changes whenever the table does. */
    version: dataUpdatedAt,
    change: (body: { mapping?: Record<string, string>; pattern?: string }) =>
      doing(() => settled(client.PATCH('/api/projects/{project}/table', { ...path, body: { mapping: body.mapping ?? null, pattern: body.pattern ?? null } }))),
    take: (file: File) => doing(() => sendTable(project, file)),
    forget: () => doing(() => settled(client.DELETE('/api/projects/{project}/table', path)).then(() => null)),
  }
}

export type Kept = ReturnType<typeof useTable>
