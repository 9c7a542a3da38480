import { useLayoutEffect, useRef, useState } from 'react'

/** Follows an element's size. */
export function useArea() {
  const ref = useRef<HTMLDivElement>(null)
  const [size, setSize] = useState({ width: 0, height: 0 })
  useLayoutEffect(() => {
    const node = ref.current
    if (!node) return
    const watch = new ResizeObserver(() => setSize({ width: node.clientWidth, height: node.clientHeight }))
    watch.observe(node)
    setSize({ width: node.clientWidth, height: node.clientHeight })
    return () => watch.disconnect()
  }, [])
  return { ref, size, origin: () => ref.current?.getBoundingClientRect() ?? { left: 0, top: 0 } }
}
