import { client, type Edit, settled, type Tried } from '@/api/client'
import { useProject } from './project'

/** What edits would make of the film's times and songs; nothing is stored. */
export const triedTimes = (edits: Edit[]) => settled(client.POST('/api/projects/{project}/tried', { params: { path: { project: useProject.getState().id } }, body: { edits } })) as Promise<Tried>
