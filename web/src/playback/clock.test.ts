import { describe, expect, it } from 'vitest'
import { FilmClock } from './clock'

/** Ten minutes of a page that draws every 16 ms, now and then late, over a sound whose clock runs a little otherwise and comes in steps. */
function watched({ rate = 1, step = 0.01, stands = [0, 0] as [number, number], busy = [0, 0] as [number, number] }) {
  const clock = new FilmClock(0, 0.06)
  const heardAt = (ms: number) => {
    const stood = Math.max(0, Math.min(ms, stands[1]) - stands[0])
    return Math.floor((((ms - stood) / 1000 - 0.06) * rate) / step) * step
  }
  const seen: { ms: number; off: number; gone: number }[] = []
  let before = -0.06
  for (let ms = 0; ms < 600_000; ms += ms > busy[0] && ms < busy[1] ? 140 : ms % 5 ? 16 : 21) {
    const seconds = clock.at(ms, heardAt(ms))
    seen.push({ ms, off: seconds - heardAt(ms), gone: seconds - before })
    before = seconds
  }
  return seen
}

describe('the film’s clock', () => {
  it('stays within 20 ms of the sound for ten minutes, through a busy minute, and never steps back or leaps', () => {
    for (const options of [{}, { rate: 1.0005 }, { rate: 0.999 }, { step: 0.0213 }, { busy: [120_000, 180_000] as [number, number] }]) {
      const seen = watched(options).slice(60)
      expect(Math.max(...seen.map((s) => Math.abs(s.off)))).toBeLessThanOrEqual(0.02 + (options.step ?? 0))
      expect(Math.min(...seen.map((s) => s.gone))).toBeGreaterThan(0)
    }
  })

  it('goes where the sound is after it stood still, and on by itself where none is heard', () => {
    const seen = watched({ stands: [60_000, 60_500] })
    expect(Math.abs(seen.at(-1)?.off ?? 1)).toBeLessThan(0.03)
    const silent = new FilmClock(0, 0)
    let seconds = 0
    for (let ms = 0; ms <= 10_000; ms += 16) seconds = silent.at(ms, ms < 2000 ? null : 0)
    // A clock that does not move is not one: at most what passed before that was clear is lost.
    expect(seconds).toBeGreaterThan(7.2)
  })
})
