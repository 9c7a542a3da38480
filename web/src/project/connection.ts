import { create } from 'zustand'
import { client, type Doc, type Edit, type EditAnswer, openSession, type ProjectAnswer, Refused, settled } from '@/api/client'
import { say } from '@/ui/notices'
import { withApplied } from './applied'
import { fetched } from './expected'
import { inOrder } from './ordering'
import { adoptWishes, keepWishes, type Wish } from './outbox'
import { layersOf, newId, useProject } from './project'
import { beginSession, led, tryEdits, useSession } from './session'

/** `waiting`: asked for, and asked for again until there is an answer. `refused`: the last change was not kept. */
export type Kept = 'kept' | 'keeping' | 'waiting' | 'refused'

type Connection = {
  kept: Kept
  /** Steps that have no answer yet, oldest first, and why. */
  wishes: Wish[]
  why: string
}

/** Whether what was asked for is kept by the server. */
export const useKept = create<Connection>()(() => ({ kept: 'kept', wishes: [], why: '' }))

export async function openProject(id: string): Promise<void> {
  const answer = await fetched(id)
  const same = useProject.getState().id === id
  const scenes = inOrder(answer.document.scenes).map(([key]) => key)
  useProject.setState({ ...told(answer), id, findings: same ? useProject.getState().findings : {} })
  if (same) {
    const { chosenScenes, playhead } = useSession.getState()
    const kept = chosenScenes.filter((scene) => answer.document.scenes?.[scene])
    useSession.setState({
      tried: null,
      playing: false,
      compared: null,
      recording: false,
      chosenKeys: [],
      target: 'layer',
      chequered: false,
      chosenScenes: kept.length ? kept : scenes.slice(0, 1),
      playhead: Math.min(playhead, answer.timeline.length),
    })
  } else {
    // Where the first scene stands: what leads into it may still be black.
    beginSession(scenes.slice(0, 1), answer.timeline.spans[0]?.hold_start ?? 0)
    useKept.setState({ kept: 'kept', wishes: [], why: '' })
  }
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
const HEAD = Object.keys({
  title: 0,
  frame: 0,
  defaults: 0,
  ends: 0,
  details: 0,
  looks: 0,
  styles: 0,
  fonts: 0,
  moves: 0,
  groups: 0,
  guides: 0,
  poster: 0,
  sounds: 0,
  songs: 0,
  mix: 0,
  fields: 0,
  templates: 0,
} satisfies Record<Head, 0>) as Head[]

type Head = Exclude<keyof EditAnswer, 'revision' | 'media' | 'scenes' | 'timeline' | 'marks' | 'applied' | 'undo' | 'redo'>

function take(answer: EditAnswer): void {
  const state = useProject.getState()
  const session = useSession.getState()
  const document: Doc = {
    ...state.document,
    ...Object.fromEntries(HEAD.filter((name) => answer[name] !== null).map((name) => [name, answer[name]])),
    media: patched(state.document.media, answer.media),
    scenes: patched(state.document.scenes, answer.scenes),
  }
  const chosen = session.chosenScenes.filter((s) => document.scenes?.[s])
  const first = inOrder(document.scenes)[0]
  useProject.setState({
    revision: answer.revision,
    document,
    timeline: answer.timeline,
    marks: { ...state.marks, ...answer.marks },
    applied: withApplied(state.applied, answer.applied, document),
    undo: answer.undo,
    redo: answer.redo,
  })
  useSession.setState({
    tried: null,
    chosenScenes: chosen.length || !first ? chosen : [first[0]],
    chosenLayers: session.chosenLayers.filter((r) => layersOf(document, r.scene)[r.layer]),
    playhead: Math.max(0, Math.min(session.playhead, answer.timeline.length - 1)),
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
const WHY: Record<number, string> = {
  0: 'the server does not answer',
  401: 'this browser is signed out',
  403: 'this browser is signed out',
  503: 'the database is starting anew',
  507: 'the disk is full',
}

/** Whether the same may be asked again: the answer did not arrive, or what stood in the way passes. */
export const passes = (status: number): boolean => status in WHY || status === 500 || status === 502 || status === 504

function show(kept: Kept, why = ''): void {
  const wishes = queue.map((w) => w.wish)
  const safe = keepWishes(useProject.getState().id, wishes)
  useKept.setState({ kept, wishes, why: why && !safe ? `${why}; keep this page open` : why })
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
  tryEdits(null)
  show('kept')
  for (const entry of given) entry.done(false)
  tryNow()
}

async function send(wish: Wish): Promise<EditAnswer> {
  const path = { project: wish.project }
  const headers = { 'X-Oak-Request': wish.id }
  if (wish.kind === 'undo') return (await settled(client.POST('/api/projects/{project}/undo', { params: { path }, headers }))) as EditAnswer
  if (wish.kind === 'redo') return (await settled(client.POST('/api/projects/{project}/redo', { params: { path }, headers }))) as EditAnswer
  if (wish.kind === 'return')
    return (await settled(client.POST('/api/projects/{project}/versions/{version}/return', { params: { path: { ...path, version: wish.version ?? '' } }, headers }))) as EditAnswer
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
      tryEdits(null)
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
    show(useKept.getState().kept === 'waiting' ? 'waiting' : 'keeping', useKept.getState().why)
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

export const undo = () => ask({ kind: 'undo' })
export const redo = () => ask({ kind: 'redo' })
export const returnTo = (version: string) => ask({ kind: 'return', version })
