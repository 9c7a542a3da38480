import { address } from '@/api/client'
import { TICKS } from '@/project/times'
import { FilmClock } from './clock'

const RATE = 48_000
const FIRST_PIECE = 2 * RATE
const PIECE = 5 * RATE
const AHEAD_SECONDS = 8
const LEAD_SECONDS = 0.06

/** The film's sound while it plays: pieces of the server's own mix, one after another without a gap; its clock is the film's. */
export class FilmSound {
  private context: AudioContext | null = null
  private sources: AudioBufferSourceNode[] = []
  private pieces: { at: number; buffer: AudioBuffer }[] = []
  private control = new AbortController()
  private startedAt = 0
  private next = 0
  private end = 0
  private base = 0
  /** Whether playing may begin: the first piece is here, or there is nothing to hear. */
  ready = false

  /** Fetches the film's sound from one moment to another (ticks). */
  prepare(project: string, from: number, to: number): void {
    this.stop()
    this.control = new AbortController()
    this.ready = false
    this.base = this.next = Math.round((from / TICKS) * RATE)
    this.end = Math.round((to / TICKS) * RATE)
    void this.fetchOn(project, this.control.signal)
  }

  /** Lets it be heard from now on; gives the clock: seconds since then. */
  begin(): () => number {
    this.context ??= new AudioContext({ sampleRate: RATE })
    void this.context.resume()
    const context = this.context
    this.startedAt = context.currentTime + LEAD_SECONDS
    const clock = new FilmClock(performance.now(), LEAD_SECONDS)
    for (const piece of this.pieces) this.schedule(piece)
    return () => clock.at(performance.now(), context.state === 'running' ? context.currentTime - this.startedAt - (context.outputLatency || 0) : null)
  }

  stop(): void {
    this.control.abort()
    for (const source of this.sources) source.stop()
    this.sources = []
    this.pieces = []
    this.startedAt = 0
  }

  private schedule({ at, buffer }: { at: number; buffer: AudioBuffer }): void {
    if (!this.context) return
    const when = this.startedAt + (at - this.base) / RATE
    const late = this.context.currentTime - when
    if (late >= buffer.duration) return
    const source = this.context.createBufferSource()
    source.buffer = buffer
    source.connect(this.context.destination)
    source.start(Math.max(when, 0), Math.max(0, late))
    this.sources.push(source)
    source.onended = () => {
      this.sources = this.sources.filter((s) => s !== source)
    }
  }

  private async fetchOn(project: string, signal: AbortSignal): Promise<void> {
    try {
      this.context ??= new AudioContext({ sampleRate: RATE })
      while (this.next < this.end && !signal.aborted) {
        const ahead = this.startedAt ? (this.next - this.base) / RATE - (this.context.currentTime - this.startedAt) : (this.next - this.base) / RATE
        if (ahead > AHEAD_SECONDS) {
          await new Promise((done) => setTimeout(done, 200))
          continue
        }
        const at = this.next
        const count = Math.min(at === this.base ? FIRST_PIECE : PIECE, this.end - at)
        const response = await fetch(address.sound(project, at, count), { signal })
        if (!response.ok) break
        const buffer = await this.context.decodeAudioData(await response.arrayBuffer())
        if (signal.aborted) return
        const piece = { at, buffer }
        this.next = at + count
        if (this.startedAt) this.schedule(piece)
        else this.pieces.push(piece)
        this.ready = true
      }
    } catch {
      // Without its sound the film still plays; the next play asks again.
    } finally {
      if (!signal.aborted) this.ready = true
    }
  }
}
