import { type RefObject, useLayoutEffect, useRef } from 'react'

/**
 * For a field that chooses all it says when it gets the cursor: what it says may change while it waits to be typed into, by an answer or by
 * someone else's edit, and typing must still replace it. `said`: what the field says, null while it is being typed.
 */
export function useChosenWhole(said: string | null): RefObject<HTMLInputElement | null> {
  const field = useRef<HTMLInputElement>(null)
  useLayoutEffect(() => {
    if (said !== null && document.activeElement === field.current) field.current?.select()
  }, [said])
  return field
}
