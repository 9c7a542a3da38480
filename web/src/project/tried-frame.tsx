import { useEffect, useRef, useState } from 'react'
import { address, type Edit, painted, releaseLater } from '@/api/client'
import { useProject } from './project'

const AT_ONCE = 2
let running = 0
const waiting: (() => void)[] = []

/** Runs when fewer than `AT_ONCE` others do: the server has two cores. */
async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= AT_ONCE) await new Promise<void>((go) => waiting.push(go))
  running += 1
  try {
    return await work()
  } finally {
    running -= 1
    waiting.shift()?.()
  }
}

/** Which frame of a scene: without a share its ends or where its hold begins, with one a moment of it, or of the join into or out of it. */
export type Which = 'opening' | 'closing' | 'hold' | 'join' | 'end'

type Props = { scene: string; edits: Edit[]; which?: Which; share?: number; width?: number; alt: string; className?: string }

/** A frame of a scene as some edits would make it; painted when it comes into sight. */
export function TriedFrame({ scene, edits, which = 'hold', share, width = 240, alt, className = '' }: Props) {
  const project = useProject((s) => s.id)
  const revision = useProject((s) => s.revision)
  const frame = useProject((s) => s.document.frame)
  const tried = edits.find((e) => e.edit === 'set_frame')
  const aspect = ((tried?.width as number) ?? frame?.width ?? 16) / ((tried?.height as number) ?? frame?.height ?? 9)
  const box = useRef<HTMLSpanElement>(null)
  const [seen, setSeen] = useState(false)
  const [shown, setShown] = useState<{ url?: string; fault?: string }>({})
  const key = JSON.stringify(edits)
  useEffect(() => {
    const node = box.current
    if (!node) return
    const watch = new IntersectionObserver((entries) => entries.some((e) => e.isIntersecting) && setSeen(true), { rootMargin: '120px' })
    watch.observe(node)
    return () => watch.disconnect()
  }, [])
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new revision may look otherwise
  useEffect(() => {
    if (!seen) return
    const control = new AbortController()
    let url: string | undefined
    void inTurn(async () => {
      if (control.signal.aborted) return
      try {
        const made = await painted(address.triedFrame(project), { edits: JSON.parse(key), scene, which, width, share: share ?? null }, control.signal)
        if (made === null) return
        url = made
        setShown({ url: made })
      } catch (error) {
        setShown({ fault: (error as Error).message })
      }
    })
    return () => {
      control.abort()
      if (url) releaseLater(url)
    }
  }, [seen, key, scene, which, share, width, project, revision])
  return (
    <span ref={box} className={`grid place-items-center overflow-hidden rounded bg-surround ${className}`} style={{ aspectRatio: aspect }}>
      {shown.url && <img src={shown.url} alt={alt} draggable={false} className="h-full w-full object-contain" />}
      {!shown.url && (
        <span aria-hidden={!shown.fault} className="px-2 text-center text-[11px] text-ash">
          {shown.fault ?? '…'}
        </span>
      )}
    </span>
  )
}
