import { create } from 'zustand'
import { type Catalogue, client, type Doc, type Edit, type EditAnswer, type Finding, type Layer, type KeyRef, type LayerRef, type Media, type ProjectAnswer, Refused, settled, type Timeline } from '@/api/client'
import { say } from '@/ui/notices'
import { inOrder } from './ordering'

export type Kept = 'kept' | 'keeping' | 'lost'

type ProjectState = {
  id: string
  revision: number
  document: Doc
  timeline: Timeline
  /** A short text per scene that changes with what it shows. */
  marks: Record<string, string>
  findings: Record<string, Finding>
  undo: string | null
  redo: string | null
  kept: Kept
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
    kept: 'kept',
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
    chosenKeys: [],
    openLanes: same ? (useProject.getState().openLanes ?? []) : [],
    lanesShown: useProject.getState().lanesShown ?? true,
    ghosts: same ? (useProject.getState().ghosts ?? false) : false,
  })
}

function told(answer: ProjectAnswer) {
  return {
    revision: answer.revision,
    document: answer.document,
    timeline: answer.timeline,
    marks: answer.marks,
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

function take(answer: EditAnswer): void {
  const state = useProject.getState()
  const document: Doc = {
    ...state.document,
    ...(answer.title !== null && { title: answer.title }),
    ...(answer.frame !== null && { frame: answer.frame }),
    ...(answer.defaults !== null && { defaults: answer.defaults }),
    ...(answer.ends !== null && { ends: answer.ends }),
    ...(answer.looks !== null && { looks: answer.looks }),
    ...(answer.moves !== null && { moves: answer.moves }),
    ...(answer.groups !== null && { groups: answer.groups }),
    ...(answer.guides !== null && { guides: answer.guides }),
    ...(answer.sounds !== null && { sounds: answer.sounds }),
    ...(answer.songs !== null && { songs: answer.songs }),
    ...(answer.mix !== null && { mix: answer.mix }),
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
    undo: answer.undo,
    redo: answer.redo,
    kept: 'kept',
    tried: null,
    chosenScenes: chosen.length || !first ? chosen : [first[0]],
    chosenLayers: state.chosenLayers.filter((r) => layersOf(document, r.scene)[r.layer]),
    playhead: Math.max(0, Math.min(state.playhead, answer.timeline.length - 1)),
  })
}

let chain: Promise<unknown> = Promise.resolve()

/** Requests that change the project go one after another, each on the revision the one before left. */
function inTurn(call: () => Promise<unknown>): Promise<boolean> {
  const id = useProject.getState().id
  const turn = chain.then(async () => {
    if (useProject.getState().id !== id) return false
    useProject.setState({ kept: 'keeping' })
    try {
      take((await call()) as EditAnswer)
      return true
    } catch (error) {
      const refused = error instanceof Refused ? error : new Refused('unknown', String(error), 0)
      useProject.setState({ tried: null, kept: refused.code === 'network' ? 'lost' : 'kept' })
      if (refused.code === 'edit.conflict') await openProject(id)
      if (refused.code !== 'edit.nothing') say(refused.message, 'fault')
      return false
    }
  })
  chain = turn
  return turn
}

const here = () => ({ params: { path: { project: useProject.getState().id } } })

const RECORDED = new Set(['set_layers', 'drag_layer', 'nudge_layers', 'align_layers', 'distribute_layers', 'set_scenes', 'drag_camera', 'drag_plan', 'drag_lamp', 'set_values'])

/** While changes are recorded, edits of numbers make keyframes at the playhead; giving up a value or taking a look does not. */
function recorded(edits: Edit[]): Edit[] {
  const { recording, playhead, chosenScenes } = useProject.getState()
  const wanted = recording && edits.some((e) => RECORDED.has(e.edit)) && !edits.some((e) => 'look' in e || Object.values(e).includes(null))
  return wanted ? [{ edit: 'record', at: Math.round(playhead), on: chosenScenes.at(-1) }, ...edits] : edits
}

/** Store edits as one step; false if the server refused (a notice says why). */
export function edit(...edits: Edit[]): Promise<boolean> {
  // Recorded where the playhead stands now, not where it has come to when earlier edits are done.
  const made = recorded(edits)
  return inTurn(() => settled(client.POST('/api/projects/{project}/edits', { ...here(), body: { base: useProject.getState().revision, edits: made } })))
}

/** Show edits without storing them; null ends the trial. */
export function tryEdits(edits: Edit[] | null): void {
  useProject.setState({ tried: edits && recorded(edits) })
}

export const undo = () => inTurn(() => settled(client.POST('/api/projects/{project}/undo', here())))
export const redo = () => inTurn(() => settled(client.POST('/api/projects/{project}/redo', here())))
export const returnTo = (version: string) =>
  inTurn(() => settled(client.POST('/api/projects/{project}/versions/{version}/return', { params: { path: { project: useProject.getState().id, version } } })))

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
