import { useEffect, useRef, useState } from 'react'

/** What the server says a drag would come to, while it lasts: one question is under way, the newest waits. */
export function useTrial<Wish, Outcome>(ask: (wish: Wish) => Promise<Outcome>) {
  const [outcome, setOutcome] = useState<Outcome | null>(null)
  const latest = useRef(ask)
  latest.current = ask
  const state = useRef<{ waiting: Wish | null; busy: boolean; drag: number }>({ waiting: null, busy: false, drag: 0 })

  const run = async () => {
    const now = state.current
    if (now.busy || now.waiting === null) return
    const [wish, drag] = [now.waiting, now.drag]
    now.waiting = null
    now.busy = true
    // What is refused while dragging is said when it is let go.
    const found = await latest.current(wish).catch(() => null)
    now.busy = false
    if (drag === now.drag && found !== null) setOutcome(found)
    void run()
  }
  const end = () => {
    state.current.waiting = null
    state.current.drag += 1
    setOutcome(null)
  }
  useEffect(
    () => () => {
      state.current.waiting = null
      state.current.drag += 1
    },
    [],
  )
  return {
    outcome,
    attempt: (wish: Wish) => {
      state.current.waiting = wish
      void run()
    },
    end,
  }
}
