import { type ComponentType, createElement, useEffect, useState } from 'react'
import { Button } from './button'

export function Waiting({ text = 'Opening…' }: { text?: string }) {
  return (
    <div role="status" className="grid h-full place-items-center text-soft">
      {text}
    </div>
  )
}

type Arriving<P> = ComponentType<P> & { ask: () => void }

/** A page that is loaded when it is first shown, or when it is asked for before. It is there the moment its script is: React's own way of waiting
 * keeps what it shows meanwhile for a third of a second, at each level. If it cannot be loaded, that is said where it would be. */
export function arriving<P extends object>(load: () => Promise<ComponentType<P>>): Arriving<P> {
  let found: ComponentType<P> | null = null
  let asked: Promise<void> | null = null
  const ask = () => {
    asked ??= load().then(
      (component) => {
        found = component
      },
      (error) => {
        asked = null
        throw error
      },
    )
    return asked
  }
  function Arriving(props: P) {
    const [fault, setFault] = useState(false)
    const [, drawAgain] = useState(0)
    // As it was when this was drawn: it may have arrived since.
    const here = found
    useEffect(() => {
      if (here || fault) return
      let over = false
      ask().then(
        () => over || drawAgain((n) => n + 1),
        () => over || setFault(true),
      )
      return () => {
        over = true
      }
    }, [fault])
    if (here) return createElement(here, props)
    return fault ? <NotArrived onAgain={() => setFault(false)} /> : <Waiting />
  }
  return Object.assign(Arriving, { ask: () => void ask().catch(() => undefined) })
}

function NotArrived({ onAgain }: { onAgain: () => void }) {
  return (
    <div role="alert" className="grid h-full place-content-center justify-items-center gap-3 p-8 text-center">
      <p className="max-w-md text-soft">This page could not be loaded. What was kept is safe. Try it again in a moment, or reload the page.</p>
      <Button onClick={onAgain}>Try again</Button>
    </div>
  )
}
