import type { components } from '@/api/schema'

type Schemas = components['schemas']
export type Corner = [number, number]
export type KeyMark = Schemas['KeyMark']
export type LaneRow = Schemas['LaneRow']
export type Bar = Schemas['Bar']
export type Lanes = Schemas['SceneLanes']
export type PathKey = Schemas['PathKey']
export type PlanView = Schemas['PlanView']
export type Geometry = Schemas['Geometry']
/** What comes with a picture, or instead of one. */
export type Header = Schemas['SocketAnswer']
export type FrameRequest = Omit<Schemas['FrameMessage'], 'kind' | 'sequence'>

type Listener = (header: Header, picture: ImageBitmap | null) => void

/**
 * The live socket. Of frame requests one is on its way at a time and only the newest waits: what a pointer asked for in between is
 * never painted.
 */
export class LiveSocket {
  private socket: WebSocket | null = null
  private sequence = 0
  private expected = 0
  private underway = false
  private waiting: FrameRequest | null = null
  private last: FrameRequest | null = null
  private closed = false
  private retry = 250
  private watchdog = 0
  private shown: Promise<void> = Promise.resolve()

  constructor(
    private readonly project: string,
    private readonly listener: Listener,
  ) {
    this.connect()
  }

  request(request: FrameRequest): void {
    this.last = request
    if (this.underway || this.socket?.readyState !== WebSocket.OPEN) this.waiting = request
    else this.sendFrame(request)
  }

  play(frame: number, last: number, width: number): number {
    this.waiting = null
    this.underway = false
    this.sequence += 1
    this.send({ kind: 'play', sequence: this.sequence, frame, last, width })
    return this.sequence
  }

  clock(frame: number): void {
    this.send({ kind: 'clock', frame })
  }

  stop(): void {
    this.send({ kind: 'stop' })
  }

  close(): void {
    this.closed = true
    clearTimeout(this.watchdog)
    this.socket?.close()
  }

  private send(message: Schemas['SocketMessage']): void {
    if (this.socket?.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify(message))
  }

  private sendFrame(request: FrameRequest): void {
    this.underway = true
    this.waiting = null
    this.sequence += 1
    this.expected = request.show === 'ends' ? 2 : 1
    this.send({ kind: 'frame', sequence: this.sequence, ...request })
    clearTimeout(this.watchdog)
    this.watchdog = window.setTimeout(() => this.done(), 15_000)
  }

  private done(): void {
    clearTimeout(this.watchdog)
    this.underway = false
    if (this.waiting) this.sendFrame(this.waiting)
  }

  private connect(): void {
    const socket = new WebSocket(`${location.origin.replace(/^http/, 'ws')}/api/projects/${this.project}/live`)
    socket.binaryType = 'arraybuffer'
    this.socket = socket
    socket.onopen = () => {
      this.retry = 250
      this.underway = false
      const again = this.waiting ?? this.last
      if (again) this.sendFrame(again)
    }
    socket.onmessage = (event) => this.receive(event.data as ArrayBuffer)
    socket.onclose = () => {
      this.underway = false
      if (this.closed) return
      setTimeout(() => this.closed || this.connect(), this.retry)
      this.retry = Math.min(this.retry * 2, 4000)
    }
  }

  private receive(data: ArrayBuffer): void {
    const length = new DataView(data).getUint32(0)
    const header = JSON.parse(new TextDecoder().decode(new Uint8Array(data, 4, length))) as Header
    const bytes = new Uint8Array(data, 4 + length)
    if (header.sequence === this.sequence && !('frame' in header || 'geometry' in header)) {
      this.expected -= 1
      // The next request leaves before this picture is decoded.
      if (this.expected <= 0 || 'fault' in header) this.done()
    }
    const decoded = bytes.length ? createImageBitmap(new Blob([bytes], { type: 'image/jpeg' })).catch(() => null) : null
    // Several are decoded at once, and on a busy machine the older may be ready last: they are shown as they came, or the older would stay.
    this.shown = this.shown.then(async () => {
      const picture = await decoded
      if (this.closed) picture?.close()
      else this.listener(header, picture)
    })
  }
}
