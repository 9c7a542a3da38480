import { client, type ProjectAnswer, settled } from '@/api/client'

const read = (id: string) => settled(client.GET('/api/projects/{project}', { params: { path: { project: id } } })) as Promise<ProjectAnswer>

const expected = new Map<string, Promise<ProjectAnswer>>()

/** Begins to fetch a project that is about to be opened, while scripts are still on their way. */
export function expectProject(id: string): void {
  const answer = read(id)
  // Whoever opens it hears what went wrong.
  answer.catch(() => undefined)
  expected.set(id, answer)
}

/** A project as the server has it: the answer to what was begun, or to a question of its own. */
export function fetched(id: string): Promise<ProjectAnswer> {
  const early = expected.get(id)
  expected.delete(id)
  return early ?? read(id)
}
