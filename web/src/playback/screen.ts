import { create } from 'zustand'
import { useProject } from '@/project/project'
import { chooseScenes, movePlayhead, reachedLayers, useSession } from '@/project/session'
import { TICKS } from '@/project/times'
import { type Geometry, type Header, LiveSocket } from './socket'
import { FilmSound } from './sound'

const START_WITH_FRAMES = 5
const CLOCK_EVERY_MS = 30
/** So long after a picture of half size has come, with nothing newer asked for, the full one is asked for: it must not keep a moving pointer waiting. */
const REST_MS = 45
/** A wait as long as this is shown. */
const NOTICED_MS = 250
/** Nothing waits longer than this for the first picture. */
const FIRST_WITHIN_MS = 1200
const FULL_WIDTH = 960
const DRAG_WIDTH = 480

/** What the last painted frame says about outlines and handles. */
export const useGeometry = create<{ geometry: Geometry; scene: string | null; fault: string | null }>()(() => ({
  geometry: { layers: [], views: [], lines: [], paths: [], ghosts: [], lamp: null, values: {}, lanes: null, plan: null, written: null },
  scene: null,
  fault: null,
}))

/** The geometry with what is as it was before kept, so that nothing is drawn anew for it. */
function unchanged(next: Geometry): Geometry {
  const before = useGeometry.getState().geometry
  const same = <K extends 'values' | 'lanes'>(key: K): Geometry[K] => (JSON.stringify(before[key]) === JSON.stringify(next[key]) ? before[key] : next[key])
  return { ...next, values: same('values'), lanes: same('lanes') }
}

/** `seen`: the easel has shown its first picture. `drawn`: it has, or has had time enough to: what is smaller waits for it, so that it comes
 * first. */
export const useFirstPicture = create<{ drawn: boolean; seen: boolean }>()(() => ({ drawn: false, seen: false }))

/** What playing waits for, if it waits long enough to be noticed; `smaller`: the width of its pictures, while they are smaller than they could be
 * so that none is missed. */
export const useWaiting = create<{ waiting: 'sound' | 'pictures' | null; smaller: number | null }>()(() => ({ waiting: null, smaller: null }))

const wait = (waiting: 'sound' | 'pictures' | null) => {
  if (useWaiting.getState().waiting !== waiting) useWaiting.setState({ waiting })
}

const shrink = (smaller: number | null) => {
  if (useWaiting.getState().smaller !== smaller) useWaiting.setState({ smaller })
}

const firstPicture = () => {
  if (!useFirstPicture.getState().drawn) useFirstPicture.setState({ drawn: true })
}

type Surface = 'film' | 'opening' | 'closing'

/**
 * The pictures on the easel: asks the live socket for what should be seen and draws it, outside React. Scrubbing and dragging ask for half
 * size and settle at full size; playing follows one clock and draws the newest frame that is due.
 */
export class Screen {
  private readonly socket: LiveSocket
  private readonly canvases: Partial<Record<Surface, HTMLCanvasElement>> = {}
  private frames = new Map<number, ImageBitmap>()
  private playSequence = -1
  private readonly sound = new FilmSound()
  /** Seconds since playing began, by the sound's clock; null until there is enough to begin. */
  private clock: (() => number) | null = null
  private first = 0
  private last = 0
  private clockSent = 0
  private raf = 0
  private rest = 0
  /** When playing was asked for, and when the last picture was drawn, in ms of the page's clock. */
  private asked = 0
  private newest = 0
  private settling = false
  shownFrames = 0
  dueFrames = 0

  constructor(private readonly project: string) {
    useFirstPicture.setState({ drawn: false, seen: false })
    window.setTimeout(firstPicture, FIRST_WITHIN_MS)
    this.socket = new LiveSocket(project, (header, picture) => this.receive(header, picture))
  }

  attach(surface: Surface, canvas: HTMLCanvasElement | null): void {
    if (canvas) this.canvases[surface] = canvas
    else delete this.canvases[surface]
  }

  /** Show the present state; `moving` while a pointer is down or the playhead is being dragged. */
  refresh(moving: boolean): void {
    const { playing } = useSession.getState()
    if (playing) return
    clearTimeout(this.rest)
    this.settling = moving
    this.ask(moving ? DRAG_WIDTH : FULL_WIDTH)
  }

  private ask(width: number): void {
    const { playhead, chosenScenes, tried, looking, chequered, lanesShown, openLanes, ghosts, chosenLayers, writing } = useSession.getState()
    const { revision } = useProject.getState()
    const scene = chosenScenes.at(-1) ?? null
    this.socket.request({
      at: Math.round(playhead),
      scene,
      show: looking === 'views' && scene ? 'ends' : 'film',
      width,
      edits: tried,
      revision,
      below: chequered ? 'chequered' : 'black',
      lanes: lanesShown,
      curves: openLanes,
      ghosts: ghosts ? (chosenLayers.length ? chosenLayers : reachedLayers()) : [],
      plan: looking === 'plan',
      writing,
    })
  }

  play(first: number, last: number): void {
    cancelAnimationFrame(this.raf)
    clearTimeout(this.rest)
    this.drop()
    this.first = first
    this.last = last
    this.clock = null
    const { timeline } = useProject.getState()
    this.sound.prepare(this.project, first * timeline.frame_ticks, Math.min(last * timeline.frame_ticks, timeline.length))
    this.shownFrames = 0
    this.dueFrames = 0
    this.asked = performance.now()
    this.playSequence = this.socket.play(first, last, FULL_WIDTH)
    this.raf = requestAnimationFrame(this.tick)
  }

  pause(): void {
    cancelAnimationFrame(this.raf)
    wait(null)
    shrink(null)
    this.playSequence = -1
    this.sound.stop()
    this.socket.stop()
    this.drop()
  }

  close(): void {
    this.pause()
    clearTimeout(this.rest)
    this.socket.close()
  }

  private drop(): void {
    for (const picture of this.frames.values()) picture.close()
    this.frames.clear()
  }

  private tick = (now: number): void => {
    this.raf = requestAnimationFrame(this.tick)
    const { timeline } = useProject.getState()
    const { loopScene } = useSession.getState()
    if (!this.clock) {
      const pictures = this.frames.size >= Math.min(START_WITH_FRAMES, this.last - this.first)
      if (!this.sound.ready || !pictures) {
        if (now - this.asked > NOTICED_MS) wait(pictures ? 'sound' : 'pictures')
        return
      }
      this.clock = this.sound.begin()
    }
    const due = this.first + Math.max(0, Math.floor((this.clock() * TICKS) / timeline.frame_ticks))
    if (now - this.clockSent > CLOCK_EVERY_MS) {
      this.clockSent = now
      this.socket.clock(Math.min(due, this.last))
    }
    if (due >= this.last) {
      if (loopScene) {
        this.play(this.first, this.last)
        return
      }
      useSession.setState({ playing: false, playhead: Math.max(0, (this.last - 1) * timeline.frame_ticks) })
      this.pause()
      this.refresh(false)
      return
    }
    let newest = -1
    for (const frame of this.frames.keys()) if (frame <= due && frame > newest) newest = frame
    if (newest >= 0) this.newest = now
    wait(now - Math.max(this.newest, this.asked) > NOTICED_MS ? 'pictures' : null)
    if (newest < 0) return
    this.shownFrames += 1
    this.dueFrames = due - this.first + 1
    const picture = this.frames.get(newest)
    if (picture) {
      this.draw('film', picture)
      shrink(picture.width < FULL_WIDTH ? picture.width : null)
    }
    for (const [frame, old] of this.frames) {
      if (frame <= newest) {
        old.close()
        this.frames.delete(frame)
      }
    }
    movePlayhead(newest * timeline.frame_ticks)
  }

  private receive(header: Header, picture: ImageBitmap | null): void {
    if ('fault' in header) useGeometry.setState({ fault: header.fault })
    if ('geometry' in header && !useSession.getState().playing) useGeometry.setState({ fault: null, geometry: unchanged(header.geometry), scene: header.scene })
    if (!picture || 'fault' in header || 'geometry' in header) return
    if ('frame' in header) {
      if (header.sequence === this.playSequence) this.frames.set(header.frame, picture)
      else picture.close()
      return
    }
    if (!useSession.getState().playing) {
      if (this.settling) {
        clearTimeout(this.rest)
        this.rest = window.setTimeout(() => this.refresh(false), REST_MS)
      }
      this.draw(header.show === 'opening' || header.show === 'closing' ? header.show : 'film', picture)
    }
    picture.close()
  }

  private draw(surface: Surface, picture: ImageBitmap): void {
    const canvas = this.canvases[surface]
    if (!canvas) return
    if (canvas.width !== picture.width || canvas.height !== picture.height) {
      canvas.width = picture.width
      canvas.height = picture.height
    }
    canvas.getContext('2d', { alpha: false })?.drawImage(picture, 0, 0)
    canvas.dataset.drawn = String(Number(canvas.dataset.drawn ?? 0) + 1)
    firstPicture()
    if (!useFirstPicture.getState().seen) useFirstPicture.setState({ seen: true })
  }
}

/** The screen of the open project, while its desk is on view. */
export const useScreen = create<{ screen: Screen | null }>()(() => ({ screen: null }))

export function startPlaying(): void {
  const { screen } = useScreen.getState()
  const { timeline } = useProject.getState()
  const { playhead, loopScene, chosenScenes } = useSession.getState()
  if (!screen || timeline.frames === 0) return
  let first = Math.floor(playhead / timeline.frame_ticks)
  let last = timeline.frames
  const span = loopScene && timeline.spans.find((s) => s.scene === chosenScenes.at(-1))
  if (span) {
    first = Math.ceil(span.join_start / timeline.frame_ticks)
    last = Math.ceil(span.end / timeline.frame_ticks)
  } else if (first >= timeline.frames - 1) first = 0
  useSession.setState({ playing: true, looking: useSession.getState().looking === 'plan' ? 'plan' : 'live', tried: null })
  screen.play(first, last)
}

export function stopPlaying(): void {
  if (!useSession.getState().playing) return
  useSession.setState({ playing: false })
  const { screen } = useScreen.getState()
  screen?.pause()
  screen?.refresh(false)
}

export const togglePlaying = () => (useSession.getState().playing ? stopPlaying() : startPlaying())

/** Moves the playhead to a moment of the film, in ticks. */
export function seek(at: number, moving = false): void {
  stopPlaying()
  const { timeline } = useProject.getState()
  movePlayhead(Math.max(0, Math.min(at, Math.max(0, (timeline.frames - 1) * timeline.frame_ticks))))
  useScreen.getState().screen?.refresh(moving)
}

/** Chooses scenes and brings the playhead to where the last one stands whole, unless it is there or the film is playing. */
export function showScenes(ids: string[]): void {
  chooseScenes(ids)
  const { timeline } = useProject.getState()
  const { playhead, playing } = useSession.getState()
  const span = timeline.spans.find((s) => s.scene === ids.at(-1))
  if (!span || playing) return
  if (playhead < span.hold_start || playhead >= span.hold_end) {
    const frame = timeline.frame_ticks
    seek(Math.ceil(span.hold_start / frame) * frame)
  } else seek(playhead)
}

export function stepFrames(count: number): void {
  const { timeline } = useProject.getState()
  const { playhead } = useSession.getState()
  seek((Math.floor(playhead / timeline.frame_ticks + 1e-6) + count) * timeline.frame_ticks)
}
