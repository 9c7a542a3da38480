import { create } from 'zustand'
import { Refused, sendPicture, type Edit, type PictureRecord } from '@/api/client'
import { editIn } from '@/project/connection'
import { newId, useProject } from '@/project/project'
import { say } from '@/ui/notices'

export type Sending = { id: string; file: File; name: string; share: number; state: 'waiting' | 'sending' | 'refused'; message: string; picture: string | null; into: Into }

/** What is made of pictures as they arrive: nothing, a scene of each, or what the film's template makes of them. */
export type Into = null | 'scenes' | 'template'

/** Files on their way to the server, and those it refused. */
export const useSending = create<{ files: Sending[]; stop: (() => void) | null }>()(() => ({ files: [], stop: null }))

const AT_ONCE = 2
const TOGETHER = 8
const FIRST_PAUSE_MS = 600
const LONGEST_PAUSE_MS = 6000
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

const refused = () => useSending.getState().files.filter((f) => f.state === 'refused')

export const forgetRefused = () => leave(refused().map((f) => f.id))

/** Sends the files that did not go in once more, those for the film for the film. */
export function sendRefusedAgain(): void {
  const again = refused()
  forgetRefused()
  for (const into of [null, 'scenes', 'template'] as const) {
    const files = again.filter((f) => f.into === into).map((f) => f.file)
    if (files.length) void sendAll(files, into)
  }
}

// Files cannot be kept for later: leaving while they are on their way would lose them.
if (typeof window !== 'undefined')
  window.addEventListener('beforeunload', (event) => {
    if (useSending.getState().files.some((f) => f.state !== 'refused')) event.preventDefault()
  })

const sleep = (ms: number, signal: AbortSignal) =>
  new Promise<void>((done) => {
    const timer = setTimeout(done, ms)
    signal.addEventListener('abort', () => {
      clearTimeout(timer)
      done()
    })
  })

/** Sends one file, again and again while the server is away. Throws what it refuses. */
async function sent(project: string, entry: { id: string; file: File }, signal: AbortSignal): Promise<PictureRecord> {
  for (let tries = 0; ; tries += 1) {
    try {
      return await sendPicture(project, entry.file, (share) => change(entry.id, { share, state: 'sending', message: '' }), signal)
    } catch (error) {
      const away = error instanceof Refused && (error.code === 'network' || [502, 503, 504].includes(error.status))
      if (!away || signal.aborted) throw error
      change(entry.id, { state: 'waiting', share: 0, message: 'The server does not answer; this is sent again by itself.' })
      await sleep(Math.min(FIRST_PAUSE_MS * 2 ** tries, LONGEST_PAUSE_MS), signal)
    }
  }
}

/**
 * Sends files and adds them to the contact sheet in the order given, and into the film; refused ones stay listed with the reason.
 */
export async function sendAll(files: File[], into: Into = null): Promise<void> {
  const project = useProject.getState().id
  const control = new AbortController()
  const waiting = files.map((file) => ({ id: newId(), file }))
  useSending.setState((s) => ({
    files: [
      ...s.files,
      ...waiting.map(({ id, file }) => ({
        id,
        file,
        into,
        name: file.name,
        share: 0,
        state: 'waiting' as const,
        message: '',
        picture: SHOWN.test(file.name) && file.size < 40e6 ? URL.createObjectURL(file) : null,
      })),
    ],
    stop: () => control.abort(),
  }))
  const results: (PictureRecord | null | undefined)[] = waiting.map(() => undefined)
  let added = 0
  let next = 0
  let arrived = 0

  // Records join the document in order, several in one step, as soon as everything before them has arrived.
  const flush = async (all: boolean) => {
    const ready: { id: string; record: PictureRecord }[] = []
    let end = added
    while (end < results.length && results[end] !== undefined) {
      const record = results[end]
      const entry = waiting[end]
      if (record && entry) ready.push({ id: entry.id, record })
      end += 1
    }
    if (!ready.length || (!all && ready.length < TOGETHER && end < results.length)) return
    added = end
    const pictures = ready.map(({ id, record }) => ({ ...record, id }))
    const pour: Edit = { edit: 'pour_pictures', pictures: ready.map(({ id }) => id), id: newId() }
    const scenes: Edit = { edit: 'add_scenes', scenes: ready.map(({ id }) => ({ id: newId(), media: id })) }
    let message = 'It arrived, but could not be put on the contact sheet.'
    const kept = await editIn(project, { edit: 'add_pictures', pictures }, ...(into === 'scenes' ? [scenes] : into === 'template' ? [pour] : [])).catch((error: Error) => {
      message = error.message
      return false
    })
    if (kept) {
      arrived += ready.length
      leave(ready.map((r) => r.id))
    } else for (const { id } of ready) change(id, { state: 'refused', message })
  }

  const run = async () => {
    while (next < waiting.length && !control.signal.aborted) {
      const index = next
      next += 1
      const entry = waiting[index]
      if (!entry) return
      change(entry.id, { state: 'sending' })
      try {
        results[index] = await sent(project, entry, control.signal)
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
  leave(
    useSending
      .getState()
      .files.filter((f) => f.state !== 'refused' && waiting.some((w) => w.id === f.id))
      .map((f) => f.id),
  )
  useSending.setState({ stop: null })
  const failed = refused().filter((f) => waiting.some((w) => w.id === f.id)).length
  if (control.signal.aborted) say(`Stopped; ${arrived} of ${files.length} pictures are kept.`)
  else if (failed) say(`${arrived} pictures added; ${failed} did not go in. The list on the contact sheet says why.`, arrived ? 'news' : 'fault')
}
