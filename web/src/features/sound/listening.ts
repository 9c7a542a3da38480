import { create } from 'zustand'
import { client, Refused, sendSound, settled, type SoundRecord } from '@/api/client'
import { editIn } from '@/project/connection'
import { newId, useProject } from '@/project/project'
import { say } from '@/ui/notices'

const EVERY_MS = 400

/** Files of sounds, as an input names them. */
export const MUSIC_FILES = 'audio/*,.wav,.flac,.mp3,.m4a,.aac,.ogg,.oga,.opus'

/** A file on its way into the film: sent, then listened to by a worker; shares 0 to 1. */
export type Coming = { key: string; project: string; name: string; stage: 'sent' | 'heard'; share: number; stop: () => void }

export const useComing = create<{ coming: Coming[] }>()(() => ({ coming: [] }))

/** Files that are being listened to outlive the page: they are looked up again when it is opened. */
type Kept = { sha256: string; name: string }
const keptAs = (project: string) => `oak-listening-${project}`
const kept = (project: string): Kept[] => JSON.parse(localStorage.getItem(keptAs(project)) ?? '[]')
const keep = (project: string, files: Kept[]) => (files.length ? localStorage.setItem(keptAs(project), JSON.stringify(files)) : localStorage.removeItem(keptAs(project)))
const without = (project: string, sha256: string) =>
  keep(
    project,
    kept(project).filter((k) => k.sha256 !== sha256),
  )

function change(key: string, partial: Partial<Coming>): void {
  useComing.setState(({ coming }) => ({ coming: coming.map((c) => (c.key === key ? { ...c, ...partial } : c)) }))
}

async function bring(project: string, name: string, work: (key: string, signal: AbortSignal) => Promise<void>): Promise<void> {
  const key = newId()
  const controller = new AbortController()
  useComing.setState(({ coming }) => ({ coming: [...coming, { key, project, name, stage: 'sent', share: 0, stop: () => controller.abort() }] }))
  try {
    await work(key, controller.signal)
  } catch (error) {
    if (!(error instanceof Refused && error.code === 'cancelled')) say(`${name}: ${(error as Error).message}`, 'fault')
  }
  useComing.setState(({ coming }) => ({ coming: coming.filter((c) => c.key !== key) }))
}

/** Waits until a worker has listened to a file, then puts it into the film. */
async function hear(project: string, file: Kept, key: string, signal: AbortSignal): Promise<void> {
  const params = { path: { project, sha256: file.sha256 } }
  change(key, { stage: 'heard', share: 0 })
  for (;;) {
    if (signal.aborted) {
      without(project, file.sha256)
      await settled(client.DELETE('/api/projects/{project}/listening/{sha256}', { params }))
      return
    }
    const { share, record, note } = await settled(client.GET('/api/projects/{project}/listening/{sha256}', { params: { ...params, query: { name: file.name } } })).catch((error) => {
      if (!(error instanceof Refused && error.code === 'network')) without(project, file.sha256)
      throw error
    })
    if (record) {
      // Another project may be open by now.
      if (!(await editIn(project, { edit: 'add_sounds', sounds: [{ ...(record as SoundRecord), id: newId() }] }))) return
      without(project, file.sha256)
      say(note || `${file.name} is in the film.`, note ? 'fault' : undefined)
      return
    }
    change(key, { share })
    await new Promise((done) => setTimeout(done, EVERY_MS))
  }
}

/** Takes in sound files one after another; each becomes a song after those that are there. */
export async function addMusic(files: File[]): Promise<void> {
  const project = useProject.getState().id
  for (const file of files)
    await bring(project, file.name, async (key, signal) => {
      const { sha256 } = await sendSound(project, file, (share) => change(key, { share }), signal)
      keep(project, [...kept(project).filter((k) => k.sha256 !== sha256), { sha256, name: file.name }])
      await hear(project, { sha256, name: file.name }, key, signal)
    })
}

/** Goes on with what was being listened to when the page was left. */
export async function goOnListening(project: string): Promise<void> {
  if (useComing.getState().coming.some((c) => c.project === project)) return
  for (const file of kept(project)) await bring(project, file.name, (key, signal) => hear(project, file, key, signal))
}
