import { create } from 'zustand'
import { Refused, sendPicture } from '@/api/client'
import { edit, newId, useProject } from '@/project/store'
import { say } from '@/ui/notices'

export type Sending = { id: string; name: string; share: number; state: 'waiting' | 'sending' | 'refused'; message: string; picture: string | null }

/** Files on their way to the server, and those it refused. */
export const useSending = create<{ files: Sending[]; stop: (() => void) | null }>()(() => ({ files: [], stop: null }))

const AT_ONCE = 2
const TOGETHER = 8
const SHOWN = /\.(jpe?g|png|webp|avif)$/i

function change(id: string, update: Partial<Sending>): void {
  useSending.setState((s) => ({ files: s.files.map((f) => (f.id === id ? { ...f, ...update } : f)) }))
}

function leave(ids: string[]): void {
  useSending.setState((s) => {
    for (const f of s.files) if (ids.includes(f.id) && f.picture) URL.revokeObjectURL(f.picture)
    return { files: s.files.filter((f) => !ids.includes(f.id)) }
  })
}

export const forgetRefused = () => leave(useSending.getState().files.filter((f) => f.state === 'refused').map((f) => f.id))

/**
 * Sends files and adds them to the contact sheet in the order given; refused ones stay listed with the reason. `intoFilm` also
 * makes a scene of each.
 */
export async function sendAll(files: File[], options: { intoFilm?: boolean } = {}): Promise<void> {
  const project = useProject.getState().id
  const control = new AbortController()
  const waiting = files.map((file) => ({ id: newId(), file }))
  useSending.setState((s) => ({
    files: [
      ...s.files.filter((f) => f.state !== 'refused'),
      ...waiting.map(({ id, file }) => ({ id, name: file.name, share: 0, state: 'waiting' as const, message: '', picture: SHOWN.test(file.name) && file.size < 40e6 ? URL.createObjectURL(file) : null })),
    ],
    stop: () => control.abort(),
  }))
  const results: (Record<string, unknown> | null | undefined)[] = waiting.map(() => undefined)
  let added = 0
  let next = 0

  // Records join the document in order, several in one step, as soon as everything before them has arrived.
  const flush = async (all: boolean) => {
    const ready: { id: string; record: Record<string, unknown> }[] = []
    let end = added
    while (end < results.length && results[end] !== undefined) {
      const record = results[end]
      const entry = waiting[end]
      if (record && entry) ready.push({ id: entry.id, record })
      end += 1
    }
    if (!ready.length || (!all && ready.length < TOGETHER && end < results.length)) return
    added = end
    if (useProject.getState().id !== project) return
    const pictures = ready.map(({ id, record }) => ({ id, ...record }))
    const scenes = { edit: 'add_scenes', scenes: ready.map(({ id }) => ({ id: newId(), media: id })) }
    await edit({ edit: 'add_pictures', pictures }, ...(options.intoFilm ? [scenes] : []))
    leave(ready.map((r) => r.id))
  }

  const run = async () => {
    while (next < waiting.length && !control.signal.aborted) {
      const index = next
      next += 1
      const entry = waiting[index]
      if (!entry) return
      change(entry.id, { state: 'sending' })
      try {
        results[index] = await sendPicture(project, entry.file, (share) => change(entry.id, { share }), control.signal)
      } catch (error) {
        results[index] = null
        if (control.signal.aborted) return
        change(entry.id, { state: 'refused', message: error instanceof Refused ? error.message : String(error) })
      }
      await flush(false)
    }
  }
  await Promise.all(Array.from({ length: AT_ONCE }, run))
  if (control.signal.aborted) for (let i = 0; i < results.length; i += 1) results[i] ??= null
  await flush(true)
  leave(useSending.getState().files.filter((f) => f.state !== 'refused' && waiting.some((w) => w.id === f.id)).map((f) => f.id))
  useSending.setState({ stop: null })
  const refused = useSending.getState().files.filter((f) => f.state === 'refused').length
  const arrived = results.filter(Boolean).length
  if (control.signal.aborted) say(`Stopped; ${arrived} of ${files.length} pictures are kept.`)
  else if (refused) say(`${arrived} pictures added; ${refused} could not be used. The list on the contact sheet says why.`, arrived ? 'news' : 'fault')
}
