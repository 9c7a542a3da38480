import { type ComponentType, createElement, useEffect, useState } from 'react'
import { say } from './notices'

/** A component that is loaded when it is first shown. If it cannot be, that is said, and it closes. */
export function later<P extends { onClose?: () => void }>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  let found: ComponentType<P> | null = null
  return function Later(props: P) {
    const [, drawAgain] = useState(0)
    const { onClose } = props
    // As it was when this was drawn: it may have arrived since.
    const here = found
    // biome-ignore lint/correctness/useExhaustiveDependencies: it is loaded once
    useEffect(() => {
      if (here) return
      let over = false
      load().then(
        (component) => {
          found = component
          if (!over) drawAgain((n) => n + 1)
        },
        () => {
          if (over) return
          say('This could not be loaded. Try it again in a moment, or reload the page: what was kept is safe.', 'fault')
          onClose?.()
        },
      )
      return () => {
        over = true
      }
    }, [])
    return here && createElement(here, props)
  }
}
