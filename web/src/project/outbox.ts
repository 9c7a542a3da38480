import type { Edit } from '@/api/client'

/** A step that was asked for and has no answer yet. `base`: the revision it was made on, once it has been sent. */
export type Wish = { id: string; project: string; kind: 'edits' | 'undo' | 'redo' | 'return'; edits?: Edit[]; version?: string; base?: number }

const PREFIX = 'oak-waiting-'
const WINDOW = 'oak-window'

const storage = (): Storage | null => {
  try {
    return typeof localStorage === 'undefined' ? null : localStorage
  } catch {
    return null
  }
}

/** This window's name: it outlives a reload, and no other window has it. */
function windowName(): string {
  const kept = sessionStorage.getItem(WINDOW)
  if (kept) return kept
  const made = crypto.randomUUID()
  sessionStorage.setItem(WINDOW, made)
  return made
}

const key = (project: string, window: string) => `${PREFIX}${project}-${window}`

/** Keeps what waits in this window in the browser, so that it outlives a reload or a crash. False if the browser has no room for it. */
export function keepWishes(project: string, wishes: Wish[]): boolean {
  const kept = storage()
  if (!kept) return false
  try {
    if (wishes.length) kept.setItem(key(project, windowName()), JSON.stringify(wishes))
    else kept.removeItem(key(project, windowName()))
    return true
  } catch {
    return false
  }
}

/** What waited in this window before it was loaded anew, and in windows that are gone: it is this window's now. */
export async function adoptWishes(project: string): Promise<Wish[]> {
  const kept = storage()
  if (!kept) return []
  const alive = await livingWindows()
  const mine = windowName()
  const found: Wish[] = []
  for (const name of Object.keys(kept).filter((k) => k.startsWith(`${PREFIX}${project}-`))) {
    const window = name.slice(`${PREFIX}${project}-`.length)
    if (window !== mine && alive.has(window)) continue
    try {
      found.push(...(JSON.parse(kept.getItem(name) ?? '[]') as Wish[]))
    } catch {
      // Nothing that was written whole: it cannot be read, and never could.
    }
    kept.removeItem(name)
  }
  keepWishes(project, found)
  return found
}

let named = false
const LET_GO_MS = 400

/** Whether this window holds the lock of its name now. It holds it for as long as it lives. */
const claimed = () =>
  new Promise<boolean>((done) => {
    void navigator.locks.request(`${WINDOW}-${windowName()}`, { ifAvailable: true }, (lock) => {
      done(lock !== null)
      return lock ? new Promise(() => undefined) : undefined
    })
  })

/** Names of the windows that are open; this one has a name of its own from then on. */
async function livingWindows(): Promise<Set<string>> {
  if (typeof navigator === 'undefined' || !navigator.locks) return new Set()
  if (!named && !(await claimed())) {
    // The page before this one is about to let go of it; or this window is the copy of another, which has the name.
    await new Promise((done) => setTimeout(done, LET_GO_MS))
    if (!(await claimed())) {
      sessionStorage.removeItem(WINDOW)
      await claimed()
    }
  }
  named = true
  const { held: locks } = await navigator.locks.query()
  return new Set((locks ?? []).map((l) => l.name?.slice(WINDOW.length + 1) ?? ''))
}
