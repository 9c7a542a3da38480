import { create } from 'zustand'
import { type Catalogue, client, type Doc, type Edit, type EditAnswer, type Finding, type Layer, type KeyRef, type LayerRef, type Media, openSession, type ProjectAnswer, Refused, settled, type Timeline } from '@/api/client'
import { say } from '@/ui/notices'
import { type Applied, withApplied } from './applied'
import { inOrder } from './ordering'
import { adoptWishes, keepWishes, type Wish } from './outbox'

/** `waiting`: asked for, and asked for again until there is an answer. `refused`: the last change was not kept. */
export type Kept = 'kept' | 'keeping' | 'waiting' | 'refused'

type ProjectState = {
  id: string
  revision: number
  document: Doc
  timeline: Timeline
  /** What applies to scenes and layers, inherited or their own. */
  applied: Record<string, Applied>
  /** A short text per scene that changes with what it shows. */
  marks: Record<string, string>
  findings: Record<string, Finding>
  undo: string | null
  redo: string | null
  kept: Kept
  /** Steps that have no answer yet, oldest first, and why. */
  wishes: Wish[]
  why: string
  /** Edits being tried in a drag: shown, never stored. */
  tried: Edit[] | null
  chosenScenes: string[]
  /** Layers chosen in the last chosen scene; none: what is done is done to all its photos. */
  chosenLayers: LayerRef[]
  /** What drags on the easel take: the layer (its window), or the picture in the window. */
  target: 'layer' | 'picture' | 'camera'
  chequered: boolean
  thirds: boolean
  safe: boolean
  playhead: number
  playing: boolean
  loopScene: boolean
  looking: 'live' | 'views' | 'plan'
  /** What is changed becomes keyframes at the playhead. */
  recording: boolean
  /** What is changed of a value that follows another changes that one, instead of ending the link. */
  intoSources: boolean
  chosenKeys: KeyRef[]
  /** Lanes opened into curves, as `container/layer/property`. */
  openLanes: string[]
  lanesShown: boolean
  /** Outlines of earlier and later frames of the chosen layers. */
  ghosts: boolean
  /** How the run sheet is spaced: every row alike, or as high as it lasts. */
  spacing: 'even' | 'time'
  /** A named version that is laid over the film. */
  compared: { id: string; name: string } | null
}

/** The open project as the server last told it, and what this window has chosen. The server's truth is never edited here. */
export const useProject = create<ProjectState>()(() => ({}) as ProjectState)

// Layers are chosen within a scene: another scene, and the choice is gone.
useProject.subscribe((now, before) => {
  if (now.chosenLayers?.length && now.chosenScenes?.at(-1) !== before.chosenScenes?.at(-1)) useProject.setState({ chosenLayers: [], target: 'layer' })
  // So are keys within layers: another layer, and its keys are let go.
  if (now.chosenKeys?.length && now.chosenLayers.length && now.chosenLayers !== before.chosenLayers) {
    const kept = now.chosenKeys.filter((k) => k.layer === null || now.chosenLayers.some((l) => l.layer === k.layer && l.scene === k.scene))
    if (kept.length !== now.chosenKeys.length) useProject.setState({ chosenKeys: kept })
  }
  if (now.chosenKeys?.length && now.chosenScenes?.at(-1) !== before.chosenScenes?.at(-1)) useProject.setState({ chosenKeys: [] })
})

export const useCatalogue = create<{ catalogue: Catalogue | null }>()(() => ({ catalogue: null }))

export async function loadCatalogue(): Promise<void> {
  if (!useCatalogue.getState().catalogue) useCatalogue.setState({ catalogue: (await settled(client.GET('/api/catalogue'))) as Catalogue })
}

export const catalogue = (): Catalogue => useCatalogue.getState().catalogue as Catalogue

export const newId = (): string => crypto.randomUUID().replaceAll('-', '').slice(0, 16)

const read = (id: string) => settled(client.GET('/api/projects/{project}', { params: { path: { project: id } } })) as Promise<ProjectAnswer>

const expected = new Map<string, Promise<ProjectAnswer>>()

/** Begins to fetch a project that is about to be opened, while scripts are still on their way. */
export function expectProject(id: string): void {
  const answer = read(id)
  // Whoever opens it hears what went wrong.
  answer.catch(() => undefined)
  expected.set(id, answer)
}

export async function openProject(id: string): Promise<void> {
  const early = expected.get(id)
  expected.delete(id)
  const answer = await (early ?? read(id))
  const same = useProject.getState().id === id
  const scenes = inOrder(answer.document.scenes)
  const kept = useProject.getState().chosenScenes?.filter((s) => answer.document.scenes?.[s])
  useProject.setState({
    ...told(answer),
    id,
    kept: same && queue.length ? useProject.getState().kept : 'kept',
    wishes: same ? useProject.getState().wishes : [],
    why: same ? useProject.getState().why : '',
    tried: null,
    playing: false,
    chosenScenes: same && kept?.length ? kept : scenes[0] ? [scenes[0][0]] : [],
    // Where the first scene stands: what leads into it may still be black.
    playhead: same ? Math.min(useProject.getState().playhead, answer.timeline.length) : (answer.timeline.spans[0]?.hold_start ?? 0),
    loopScene: same ? useProject.getState().loopScene : false,
    looking: same ? useProject.getState().looking : 'live',
    chosenLayers: same ? (useProject.getState().chosenLayers ?? []) : [],
    target: 'layer',
    chequered: false,
    thirds: same ? useProject.getState().thirds : false,
    safe: same ? useProject.getState().safe : false,
    findings: same ? (useProject.getState().findings ?? {}) : {},
    compared: null,
    spacing: useProject.getState().spacing ?? 'even',
    recording: false,
    intoSources: same ? (useProject.getState().intoSources ?? false) : false,
    chosenKeys: [],
    openLanes: same ? (useProject.getState().openLanes ?? []) : [],
    lanesShown: useProject.getState().lanesShown ?? true,
    ghosts: same ? (useProject.getState().ghosts ?? false) : false,
  })
  if (!same) await goOn(id)
}

function told(answer: ProjectAnswer) {
  return {
    revision: answer.revision,
    document: answer.document,
    timeline: answer.timeline,
    marks: answer.marks,
    applied: withApplied({}, answer.applied, answer.document),
    undo: answer.undo,
    redo: answer.redo,
  }
}

function patched<T>(records: Record<string, T> | undefined, changed: Record<string, T | null>): Record<string, T> {
  const next = { ...records }
  for (const [id, record] of Object.entries(changed)) {
    if (record === null) delete next[id]
    else next[id] = record
  }
  return next
}

/** Parts of a document that an answer holds whole, if they changed. */
const HEAD = ['title', 'frame', 'defaults', 'ends', 'looks', 'moves', 'groups', 'guides', 'sounds', 'songs', 'mix', 'fields'] as const

function take(answer: EditAnswer): void {
  const state = useProject.getState()
  const document: Doc = {
    ...state.document,
    ...Object.fromEntries(HEAD.filter((name) => answer[name] !== null).map((name) => [name, answer[name]])),
    media: patched(state.document.media, answer.media),
    scenes: patched(state.document.scenes, answer.scenes),
  }
  const chosen = state.chosenScenes.filter((s) => document.scenes?.[s])
  const first = inOrder(document.scenes)[0]
  useProject.setState({
    revision: answer.revision,
    document,
    timeline: answer.timeline,
    marks: { ...state.marks, ...answer.marks },
    applied: withApplied(state.applied, answer.applied, document),
    undo: answer.undo,
    redo: answer.redo,
    tried: null,
    chosenScenes: chosen.length || !first ? chosen : [first[0]],
    chosenLayers: state.chosenLayers.filter((r) => layersOf(document, r.scene)[r.layer]),
    playhead: Math.max(0, Math.min(state.playhead, answer.timeline.length - 1)),
  })
}

type Waiting = { wish: Wish; done: (kept: boolean) => void; tries: number }

/** Steps that have no answer yet, of the open project; what waited in another project stays kept in the browser for when it is opened. */
let queue: Waiting[] = []
let running = false
let hurry: (() => void) | null = null

const FIRST_PAUSE_MS = 400
const LONGEST_PAUSE_MS = 5000
const MOST_FAULTS = 3
const WHY: Record<number, string> = { 0: 'the server does not answer', 401: 'this browser is signed out', 403: 'this browser is signed out', 503: 'the database is starting anew', 507: 'the disk is full' }

/** Whether the same may be asked again: the answer did not arrive, or what stood in the way passes. */
export const passes = (status: number): boolean => status in WHY || status === 500 || status === 502 || status === 504

function show(kept: Kept, why = ''): void {
  const wishes = queue.map((w) => w.wish)
  const safe = keepWishes(useProject.getState().id, wishes)
  useProject.setState({ kept, wishes, why: why && !safe ? `${why}; keep this page open` : why })
}

/** Waits, or until somebody is in a hurry. */
const pause = (ms: number) =>
  new Promise<void>((done) => {
    const timer = setTimeout(done, ms)
    hurry = () => {
      clearTimeout(timer)
      done()
    }
  })

/** Ask again now for what waits. */
export const tryNow = (): void => hurry?.()

/** Nothing that waits is asked for any more. */
export function giveUpWaiting(): void {
  const given = queue
  queue = []
  useProject.setState({ tried: null })
  show('kept')
  for (const entry of given) entry.done(false)
  tryNow()
}

async function send(wish: Wish): Promise<EditAnswer> {
  const path = { project: wish.project }
  const headers = { 'X-Oak-Request': wish.id }
  if (wish.kind === 'undo') return (await settled(client.POST('/api/projects/{project}/undo', { params: { path }, headers }))) as EditAnswer
  if (wish.kind === 'redo') return (await settled(client.POST('/api/projects/{project}/redo', { params: { path }, headers }))) as EditAnswer
  if (wish.kind === 'return') return (await settled(client.POST('/api/projects/{project}/versions/{version}/return', { params: { path: { ...path, version: wish.version ?? '' } }, headers }))) as EditAnswer
  return (await settled(client.POST('/api/projects/{project}/edits', { params: { path }, headers, body: { base: wish.base ?? 0, edits: wish.edits ?? [] } }))) as EditAnswer
}

/** Steps go one after another, each on the revision the one before left; each is asked for until it is answered, and done once. */
async function run(): Promise<void> {
  if (running) return
  running = true
  while (queue[0]) {
    const entry = queue[0]
    const { wish } = entry
    wish.base ??= useProject.getState().revision
    if (entry.tries === 0) show('keeping')
    try {
      const answer = await send(wish)
      if (queue[0] !== entry) continue
      queue = queue.slice(1)
      take(answer)
      show(queue.length ? 'keeping' : 'kept')
      entry.done(true)
    } catch (error) {
      if (queue[0] !== entry) continue
      const refused = error instanceof Refused ? error : new Refused('unknown', String(error), -1)
      entry.tries += 1
      if (passes(refused.status) && (refused.status !== 500 || entry.tries < MOST_FAULTS)) {
        show('waiting', WHY[refused.status] ?? 'the server met a fault')
        if (refused.status === 403) await openSession().catch(() => undefined)
        await pause(Math.min(FIRST_PAUSE_MS * 2 ** (entry.tries - 1), LONGEST_PAUSE_MS))
        continue
      }
      queue = queue.slice(1)
      useProject.setState({ tried: null })
      if (refused.code === 'edit.conflict') await openProject(wish.project).catch(() => undefined)
      show(refused.code === 'edit.nothing' ? (queue.length ? 'keeping' : 'kept') : 'refused')
      if (refused.code !== 'edit.nothing') say(refused.message, 'fault')
      entry.done(false)
    }
  }
  running = false
}

function ask(wish: Omit<Wish, 'id' | 'project'>): Promise<boolean> {
  return new Promise((done) => {
    queue = [...queue, { wish: { ...wish, id: newId(), project: useProject.getState().id }, done, tries: 0 }]
    show(useProject.getState().kept === 'waiting' ? 'waiting' : 'keeping', useProject.getState().why)
    void run()
  })
}

/** What waited when this project was last left, or its window died, is asked for again. */
async function goOn(project: string): Promise<void> {
  // What waits in the project that was open before stays kept in the browser for it.
  for (const entry of queue) entry.done(false)
  queue = []
  tryNow()
  const wishes = await adoptWishes(project)
  if (!wishes.length || useProject.getState().id !== project) return
  const kept = await Promise.all(
    wishes.map(
      (wish) =>
        new Promise<boolean>((done) => {
          queue = [...queue, { wish, done, tries: 0 }]
          void run()
        }),
    ),
  )
  const count = kept.filter(Boolean).length
  if (count) say(`${count === 1 ? 'A change' : `${count} changes`} that waited when this project was left ${count === 1 ? 'is' : 'are'} kept now.`)
}

/** What stands before edits: that the numbers they set become keyframes at the playhead, or that what is followed changes along. */
function led(edits: Edit[]): Edit[] {
  const { recording, intoSources, playhead, chosenScenes } = useProject.getState()
  if (recording) return [{ edit: 'record', at: Math.round(playhead), on: chosenScenes.at(-1) }, ...edits]
  return intoSources ? [{ edit: 'into_sources' }, ...edits] : edits
}

/** Store edits as one step; false if the server refused (a notice says why). */
export function edit(...edits: Edit[]): Promise<boolean> {
  // Recorded where the playhead stands now, not where it has come to when earlier edits are done.
  return ask({ kind: 'edits', edits: led(edits) })
}

/** The same in a project that need not be open any more, as one step. Throws what the server refuses. */
export async function editIn(project: string, ...edits: Edit[]): Promise<boolean> {
  if (useProject.getState().id === project) return edit(...edits)
  const { revision } = await settled(client.GET('/api/projects/{project}/state', { params: { path: { project } } }))
  await send({ id: newId(), project, kind: 'edits', edits, base: revision })
  return true
}

/** Show edits without storing them; null ends the trial. */
export function tryEdits(edits: Edit[] | null): void {
  useProject.setState({ tried: edits && led(edits) })
}

export const undo = () => ask({ kind: 'undo' })
export const redo = () => ask({ kind: 'redo' })
export const returnTo = (version: string) => ask({ kind: 'return', version })

/** The layers that a scene or a shared group lists. */
export const layersOf = (document: Doc, container: string): Record<string, Layer> => (document.scenes?.[container] ?? document.groups?.[container])?.layers ?? {}

/** Photos of scenes, as edits name them. */
export function photosOf(scenes: string[]): LayerRef[] {
  const { document } = useProject.getState()
  return scenes.flatMap((scene) =>
    Object.entries(layersOf(document, scene))
      .filter(([, l]) => l.kind === 'photo')
      .map(([layer]) => ({ scene, layer })),
  )
}

/** The chosen layers; if none are, all photos of the chosen scenes. */
export function reachedLayers(): LayerRef[] {
  const { chosenLayers, chosenScenes } = useProject.getState()
  return chosenLayers.length ? chosenLayers : photosOf(chosenScenes)
}

/** The photos among them. */
export const reachedPhotos = (): LayerRef[] => reachedLayers().filter((r) => layersOf(useProject.getState().document, r.scene)[r.layer]?.kind === 'photo')

/** A short text that changes with a picture's looks, for the browser's cache. */
export function pictureMark(media: Media | undefined): string {
  if (!media) return ''
  const text = JSON.stringify([media.sha256, media.turned, media.flipped, media.straighten, media.crop, media.correction, media.clip?.poster])
  let mark = 0
  for (let i = 0; i < text.length; i += 1) mark = (Math.imul(mark, 31) + text.charCodeAt(i)) | 0
  return (mark >>> 0).toString(36)
}

/** The scene that stands at a moment of the film (in a join, the one that comes in). */
export function sceneAt(timeline: Timeline, at: number): string | null {
  let found: string | null = timeline.spans[0]?.scene ?? null
  for (const span of timeline.spans) if (span.join_start <= at) found = span.scene
  return found
}
