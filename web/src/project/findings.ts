import type { Finding } from '@/api/client'
import { client, settled } from '@/api/client'
import { useProject } from './project'

const REST_MS = 120
const AT_ONCE = 12

let wanted: string[] = []
let timer = 0
let asking = false

/** Looks at scenes whose findings are not known as they are now: those on view, a few at a time. */
export function lookInto(scenes: string[]): void {
  wanted = scenes
  if (asking) return
  clearTimeout(timer)
  timer = window.setTimeout(() => void ask(), REST_MS)
}

async function ask(): Promise<void> {
  const { id, marks, findings } = useProject.getState()
  const stale = wanted.filter((s) => marks[s] && findings[s]?.mark !== marks[s]).slice(0, AT_ONCE)
  if (!stale.length) return
  asking = true
  try {
    const answer = (await settled(client.POST('/api/projects/{project}/findings', { params: { path: { project: id } }, body: { scenes: stale } }))) as { findings: Finding[] }
    if (useProject.getState().id !== id) return
    const known = { ...useProject.getState().findings }
    for (const finding of answer.findings) known[finding.scene] = finding
    useProject.setState({ findings: known })
    // What changed while the answer was on its way has another mark by now; it is asked for again, unless the scene is gone.
    if (answer.findings.length) timer = window.setTimeout(() => void ask(), REST_MS)
  } catch {
    // Findings are looked up again when something changes or comes on view.
  } finally {
    asking = false
  }
}
