import { useState } from 'react'
import { say } from './notices'

/** Does one thing at a time, and says what went wrong; `after` comes either way. */
export function useDoing(after?: () => Promise<unknown>): { busy: boolean; doing: (what: () => Promise<unknown>) => Promise<void> } {
  const [busy, setBusy] = useState(false)
  const doing = async (what: () => Promise<unknown>) => {
    setBusy(true)
    try {
      await what()
    } catch (error) {
      say((error as Error).message, 'fault')
    }
    setBusy(false)
    await after?.()
  }
  return { busy, doing }
}
