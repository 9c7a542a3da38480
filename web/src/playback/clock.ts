/** Seconds apart beyond which the sound has not drifted but stood still or been carried on: the picture goes where it is at once. */
const APART = 0.25
/** How much of what it is off is made up in a second: what the sound's clock says comes in steps, and must not be seen as such. */
const GAIN = 5
/** A sound's clock that has not moved for so long, in ms, is not heard: there is no device, or it is asleep. */
const STILL_MS = 600

/**
 * Seconds of the film by the page's clock, drawn to the sound's without a jump: the sound is never touched, the picture follows it. Where
 * nothing is heard it goes on by the page's clock alone.
 */
export class FilmClock {
  private seconds: number
  private before: number
  private heard = Number.NaN
  private movedAt: number

  /** `now`: the page's clock in ms; `lead`: seconds until the sound begins. */
  constructor(now: number, lead: number) {
    this.seconds = -lead
    this.before = this.movedAt = now
  }

  /** Where the film is at `now`; `heard`: seconds of it that have been heard by the sound's own clock, null if it does not run. */
  at(now: number, heard: number | null): number {
    const passed = Math.max(0, now - this.before) / 1000
    this.before = now
    this.seconds += passed
    if (heard === null) return this.seconds
    if (heard !== this.heard) {
      this.heard = heard
      this.movedAt = now
    } else if (now - this.movedAt > STILL_MS) return this.seconds
    const off = heard - this.seconds
    this.seconds += Math.abs(off) > APART ? off : off * Math.min(1, GAIN * passed)
    return this.seconds
  }
}
