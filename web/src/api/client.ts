import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

type Schemas = components['schemas']
export type Catalogue = Schemas['CatalogueAnswer']
export type Doc = Schemas['Document']
export type Scene = Schemas['Scene']
export type Photo = Schemas['PhotoLayer']
export type ShapeLayer = Schemas['ShapeLayer']
export type GroupLayer = Schemas['GroupLayer']
export type TextLayer = Schemas['TextLayer']
export type TextStyle = Schemas['TextStyle']
export type Layer = Photo | ShapeLayer | TextLayer | GroupLayer
export type Look = Schemas['Look']
export type SharedGroup = Schemas['SharedGroup']
export type Guide = Schemas['Guide']
export type Area = Schemas['Area']
export type LookPart = Schemas['LookPartModel']
export type SceneChange = Schemas['SceneChangeModel']
export type Media = Schemas['Media']
export type View = Schemas['View']
export type Join = Schemas['Join']
export type Timeline = Schemas['TimelineModel']
export type Finding = Schemas['SceneFindingModel']
export type MediaState = Schemas['MediaStateModel']
export type EditAnswer = Schemas['EditAnswer']
export type ProjectAnswer = Schemas['ProjectAnswer']
export type ProjectSummary = Schemas['ProjectSummary']
export type ExportJob = Schemas['ExportModel']
export type ExportRequest = Schemas['ExportRequest']
export type Estimate = Schemas['EstimateAnswer']
export type Parameter = Schemas['ParameterModel']
export type Move = Schemas['Move']
export type MoveUse = Schemas['MoveUse']
export type CameraRig = Schemas['CameraRig']
export type Light = Schemas['Light']
export type Version = Schemas['VersionModel']
export type SoundFile = Schemas['SoundFile']
export type Song = Schemas['Song']
export type Mix = Schemas['Mix']
export type Heard = Schemas['HeardAnswer']
export type Tried = Schemas['TriedAnswer']
export type Template = Schemas['Template']
export type TrialFinding = Schemas['TrialFindingModel']
export type Zone = Schemas['Zone']
export type SceneRule = Schemas['SceneRule']
export type Dial = Schemas['Dial']
export type Filling = Schemas['FillingModel']
export type FilmTable = Schemas['TableModel']
export type FilmBatch = Schemas['BatchModel']
export type Offer = Schemas['OfferModel']
export type TemplateFacts = Schemas['TemplateFactsModel']
export type Shape = Schemas['ShapeAnswer']
export type MusicWish = Schemas['MusicWish']

/** A layer of a scene, or of a shared group. */
export type LayerRef = { scene: string; layer: string }

/** A lane: of a layer, or (layer null) of the scene itself. `on`: the scene it is seen in. */
export type LaneRef = { scene: string; layer: string | null; property: string; on?: string | null }
export type KeyRef = LaneRef & { key: string }

/** An edit as the core knows it: its name and its parameters. */
export type Edit = Schemas['Edit']
export type EditOf<Name extends Edit['edit']> = Extract<Edit, { edit: Name }>
/** What the server says of a file it took in; with an id of its own it goes onto the contact sheet, or to the sounds. */
export type PictureRecord = EditOf<'add_pictures'>['pictures'][number]
export type SoundRecord = EditOf<'add_sounds'>['sounds'][number]

/** What the server refused, in a sentence a person can act on. */
export class Refused extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly status: number,
  ) {
    super(message)
  }
}

let token = ''

const MOST_READS = 12

/** Reads are asked again while the server says that it will answer soon; what changes something is asked again by who wants it. */
async function asked(request: Request): Promise<Response> {
  for (let tries = 1; ; tries += 1) {
    const response = await fetch(request.clone()).catch(() => {
      throw new Refused('network', 'The server does not answer. What was kept is safe; check that ./oak start is running.', 0)
    })
    const soon = Number(response.headers.get('Retry-After'))
    if (request.method !== 'GET' || response.status !== 503 || !soon || tries >= MOST_READS) return response
    await new Promise((done) => setTimeout(done, soon * 1000))
  }
}

export const client = createClient<paths>({
  baseUrl: '/',
  fetch: (request: Request) => {
    if (request.method !== 'GET') request.headers.set('X-Oak-Token', token)
    return asked(request)
  },
})

function refusal(body: unknown, status: number): Refused {
  const fault = (body as { faults?: { code: string; message: string; path: string }[] } | undefined)?.faults?.[0]
  return new Refused(fault?.code ?? 'unknown', fault?.message ?? `The server answered with ${status}.`, status)
}

/** The data of an answer, or a `Refused` thrown. */
export async function settled<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call
  if (!response.ok || error !== undefined) throw refusal(error, response.status)
  return data as T
}

export async function openSession(): Promise<void> {
  token = (await settled(client.GET('/api/session'))).token
}

/** Signs this browser out, or all others. */
export const endSession = (others: boolean) => settled(client.POST('/api/session/end', { body: { others } }))

/** A JPEG that takes a request body; the caller releases its address. Null if it was called off. */
export async function painted(path: string, body: object, signal: AbortSignal): Promise<string | null> {
  const picture = await fileOf(path, body, signal)
  return picture && URL.createObjectURL(picture)
}

/** A file that takes a request body. Null if it was called off. */
export async function fileOf(path: string, body: object, signal: AbortSignal): Promise<Blob | null> {
  try {
    const response = await fetch(path, { method: 'POST', body: JSON.stringify(body), headers: { 'Content-Type': 'application/json', 'X-Oak-Token': token }, signal })
    if (!response.ok) throw refusal(await response.json().catch(() => undefined), response.status)
    return await response.blob()
  } catch (error) {
    if (signal.aborted) return null
    throw error instanceof Refused ? error : new Refused('network', 'The server does not answer. What was kept is safe; check that ./oak start is running.', 0)
  }
}

const SHOWN_ON_MS = 3000

/** Gives back a picture's memory once nothing shows it any more: what replaces it may still be on its way. */
export const releaseLater = (url: string): void => void setTimeout(() => URL.revokeObjectURL(url), SHOWN_ON_MS)

/** Sends one picture or clip; `onProgress` hears the share that has arrived (0 to 1). */
export const sendPicture = async (project: string, file: File, onProgress: (share: number) => void, signal: AbortSignal): Promise<PictureRecord> =>
  (await sendFile<{ record: PictureRecord }>(`/api/projects/${project}/pictures`, file, onProgress, signal)).record

/** Sends one sound file; a worker then listens to it, by its content's name. */
export const sendSound = (project: string, file: File, onProgress: (share: number) => void, signal: AbortSignal) =>
  sendFile<{ sha256: string }>(`/api/projects/${project}/sounds`, file, onProgress, signal)

export type FontRecord = { name: string; family: string; sha256: string; weight: number; italic: boolean }

/** Sends one font; it comes back checked. */
export const sendFont = async (project: string, file: File): Promise<FontRecord> =>
  (await sendFile<{ record: FontRecord }>(`/api/projects/${project}/fonts`, file, () => undefined, new AbortController().signal)).record

/** Sends a template's file; it is checked before it is let in. */
export const sendTemplate = (file: File): Promise<TemplateFacts> => sendFile<TemplateFacts>('/api/templates', file, () => undefined, new AbortController().signal)

/** Sends a table; what comes back is how it was read. */
export const sendTable = (project: string, file: File): Promise<FilmTable> => sendFile<FilmTable>(`/api/projects/${project}/table`, file, () => undefined, new AbortController().signal)

function sendFile<Received>(path: string, file: File, onProgress: (share: number) => void, signal: AbortSignal): Promise<Received> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open('POST', path)
    request.setRequestHeader('X-Oak-Token', token)
    request.setRequestHeader('X-File-Name', encodeURIComponent(file.name))
    request.setRequestHeader('Content-Type', 'application/octet-stream')
    request.upload.onprogress = (event) => onProgress(event.loaded / Math.max(1, event.total))
    request.onload = () => {
      let body: unknown
      try {
        body = JSON.parse(request.responseText)
      } catch {
        body = undefined
      }
      if (request.status === 200) resolve(body as Received)
      else reject(refusal(body, request.status))
    }
    request.onerror = () => reject(new Refused('network', 'The connection broke while the file was being sent. Add it again.', 0))
    request.onabort = () => reject(new Refused('cancelled', 'Cancelled.', 0))
    signal.addEventListener('abort', () => request.abort())
    request.send(file)
  })
}

export const address = {
  poster: (project: string, key: string) => `/api/projects/${project}/poster?width=480&key=${key}`,
  thumbnail: (project: string, media: string, mark = '') => `/api/projects/${project}/pictures/${media}/thumbnail?key=${mark}`,
  large: (project: string, media: string, width: number, mark = '') => `/api/projects/${project}/pictures/${media}/large?width=${width}&key=${mark}`,
  faceSample: (project: string, family: string, text: string, ink: string) => `/api/projects/${project}/face-sample?${new URLSearchParams({ family, text, ink, height: '44' })}`,
  madeMusic: (project: string) => `/api/projects/${project}/made-music/heard`,
  developed: (project: string, media: string) => `/api/projects/${project}/pictures/${media}/developed`,
  triedFrame: (project: string) => `/api/projects/${project}/tried-frame`,
  end: (project: string, scene: string, which: 'opening' | 'settled' | 'closing', key: string, width = 224) =>
    `/api/projects/${project}/scenes/${scene}/frame?which=${which}&width=${width}&key=${key}`,
  tableRow: (project: string, row: number, scene: string, width: number, key: number) =>
    `/api/projects/${project}/table/rows/${row}/frame?${new URLSearchParams({ scene, width: String(width), key: String(key) })}`,
  films: (batch: string) => `/api/batches/${batch}/films.zip`,
  version: (project: string, version: string, scene: string, share: number) => `/api/projects/${project}/versions/${version}/frame?scene=${scene}&share=${share.toFixed(5)}&width=960`,
  sound: (project: string, first: number, count: number) => `/api/projects/${project}/sound?first=${first}&count=${count}`,
  film: (job: string) => `/api/exports/${job}/film`,
}
