import { create } from 'zustand'
import { client, type EditOf, sendTemplate, settled, type TemplateFacts } from '@/api/client'
import { inOrder } from '@/project/ordering'
import { useProject } from '@/project/project'
import { askForFiles } from '@/ui/files'
import { say } from '@/ui/notices'

/** What a template is put on: scenes, or pictures that get scenes of their own. */
export type Treated = { scenes: string[]; pictures: string[] }

/** What the library was opened for. */
export const useTreating = create<Treated>()(() => ({ scenes: [], pictures: [] }))

const SEEN_SCENES = 6
const SEEN_PICTURES = 9
const TRIED = 'tried'

/** Scenes in the order of the film. */
export const inFilmOrder = (ids: string[]): string[] => inOrder(useProject.getState().document.scenes).flatMap(([id]) => (ids.includes(id) ? [id] : []))

export const putOn = (key: string, id: string, treated: Treated, seed: number): EditOf<'put_on'> => ({ edit: 'put_on', key, id, scenes: treated.scenes, pictures: treated.pictures, seed })

/** The edit that shows a template on the first of what is treated, and the scene that is seen then. */
export function triedOn(key: string, treated: Treated, seed: number) {
  const seen = { scenes: treated.scenes.slice(0, SEEN_SCENES), pictures: treated.pictures.slice(0, SEEN_PICTURES) }
  return { edits: [putOn(key, TRIED, seen, seed)], scene: seen.scenes[0] ?? `${TRIED}-1` }
}

/** All templates of the library; asked for once, until something is changed in it. */
let library: Promise<TemplateFacts[]> | null = null
export function listedTemplates(): Promise<TemplateFacts[]> {
  library ??= settled(client.GET('/api/templates')).then(
    (answer) => answer.templates,
    (error: Error) => {
      library = null
      throw error
    },
  )
  return library
}

export const forgetLibrary = (): void => {
  library = null
}

export const like = (template: string, on: boolean) => settled(client.PUT('/api/templates/favourites/{template}', { params: { path: { template } }, body: { on } }))

/** The newest version of a template into all films that use an older one. */
export const takeEverywhere = (template: string) => settled(client.POST('/api/templates/{template}/everywhere', { params: { path: { template } } }))

export const removeTemplate = (kept: string) => settled(client.DELETE('/api/templates/{kept}', { params: { path: { kept } } }))

/** Asks for a template's file and lets it in; the key of what is in it, null if it was given up or refused. */
export async function openFile(): Promise<string | null> {
  const [file] = await askForFiles({ accept: '.oaktemplate,.zip', many: false })
  if (!file) return null
  try {
    const opened = await sendTemplate(file)
    say(`“${opened.name}” is in the library.`)
    return opened.key
  } catch (error) {
    say((error as Error).message, 'fault')
    return null
  }
}
