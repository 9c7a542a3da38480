import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type FrameRequest, type Header, LiveSocket } from './socket'

class FakeSocket {
  static OPEN = 1
  static last: FakeSocket
  readyState = 0
  binaryType = ''
  sent: Record<string, unknown>[] = []
  onopen?: () => void
  onclose?: () => void
  onmessage?: (event: { data: ArrayBuffer }) => void
  constructor(readonly url: string) {
    FakeSocket.last = this
  }
  send(text: string) {
    this.sent.push(JSON.parse(text))
  }
  open() {
    this.readyState = 1
    this.onopen?.()
  }
  close() {
    this.readyState = 3
    this.onclose?.()
  }
  async answer(header: Partial<Header>) {
    const text = new TextEncoder().encode(JSON.stringify(header))
    const data = new Uint8Array(4 + text.length + 3)
    new DataView(data.buffer).setUint32(0, text.length)
    data.set(text, 4)
    this.onmessage?.({ data: data.buffer })
    await Promise.resolve()
    await Promise.resolve()
  }
}

const at = (moment: number, show: FrameRequest['show'] = 'film'): FrameRequest => ({ at: moment, scene: 's', show, width: 480 })
const moments = () => FakeSocket.last.sent.filter((m) => m.kind === 'frame').map((m) => m.at)

describe('the live socket', () => {
  const heard: Partial<Header>[] = []
  beforeEach(() => {
    vi.useFakeTimers()
    heard.length = 0
    vi.stubGlobal('WebSocket', FakeSocket)
    vi.stubGlobal('location', { origin: 'http://127.0.0.1:1' })
    vi.stubGlobal('window', globalThis)
    vi.stubGlobal('createImageBitmap', async () => ({ close: () => {} }))
  })
  afterEach(() => vi.useRealTimers())
  const made = () => new LiveSocket('p', (header) => heard.push(header))

  it('has one request under way, and of those that come meanwhile only the newest waits', async () => {
    const live = made()
    FakeSocket.last.open()
    for (const moment of [1, 2, 3, 4]) live.request(at(moment))
    expect(moments()).toEqual([1])
    await FakeSocket.last.answer({ sequence: 1, at: 1 })
    expect(moments()).toEqual([1, 4])
    await FakeSocket.last.answer({ sequence: 2, at: 4 })
    expect(moments()).toEqual([1, 4])
    await vi.waitFor(() => expect(heard.map((h) => 'at' in h && h.at)).toEqual([1, 4]))
  })

  it('shows pictures in the order they came, whichever is decoded first', async () => {
    const ready: (() => void)[] = []
    vi.stubGlobal('createImageBitmap', () => new Promise((done) => ready.push(() => done({ close: () => {} }))))
    const live = made()
    FakeSocket.last.open()
    live.request(at(1))
    live.request(at(2))
    await FakeSocket.last.answer({ sequence: 1, at: 1 })
    await FakeSocket.last.answer({ sequence: 2, at: 2 })
    ready[1]?.()
    await Promise.resolve()
    ready[0]?.()
    await vi.waitFor(() => expect(heard.map((h) => 'at' in h && h.at)).toEqual([1, 2]))
  })

  it('waits for both pictures of a scene’s ends', async () => {
    const live = made()
    FakeSocket.last.open()
    live.request(at(1, 'ends'))
    live.request(at(2))
    await FakeSocket.last.answer({ sequence: 1, show: 'opening' })
    expect(moments()).toEqual([1])
    await FakeSocket.last.answer({ sequence: 1, show: 'closing' })
    expect(moments()).toEqual([1, 2])
  })

  it('goes on after a fault, and asks again for the last thing when the connection comes back', async () => {
    const live = made()
    const first = FakeSocket.last
    first.open()
    live.request(at(1))
    await first.answer({ sequence: 1, fault: 'No.' })
    live.request(at(2))
    expect(moments()).toEqual([1, 2])
    first.close()
    await vi.advanceTimersByTimeAsync(300)
    expect(FakeSocket.last).not.toBe(first)
    FakeSocket.last.open()
    expect(moments()).toEqual([2])
    live.close()
    await vi.advanceTimersByTimeAsync(10_000)
    expect(FakeSocket.last.sent.length).toBe(1)
  })
})
