import { useEffect, useState } from 'react'
import type { Edit } from '@/api/client'
import { TriedFrame, type Which } from './tried-frame'

const STEP_MS = 170

/** A tile that stands still (at share number `still`), and runs while it is pointed at or chosen. */
export function Running({ scene, edits, shares, on, which, still = 2 }: { scene: string; edits: Edit[]; shares: number[]; on: boolean; which?: Which; still?: number }) {
  const [pointed, setPointed] = useState(false)
  const [step, setStep] = useState(still)
  const runs = (pointed || on) && !window.matchMedia('(prefers-reduced-motion: reduce)').matches
  useEffect(() => {
    if (!runs) return
    const timer = setInterval(() => setStep((s) => (s + 1) % shares.length), STEP_MS)
    return () => clearInterval(timer)
  }, [runs, shares.length])
  return (
    <span className="relative block" onPointerEnter={() => setPointed(true)} onPointerLeave={() => setPointed(false)}>
      {shares.map(
        (share, i) =>
          (runs || i === still) && (
            <span key={share} className={i === (runs ? step : still) ? 'block' : 'absolute inset-0 opacity-0'}>
              <TriedFrame scene={scene} edits={edits} share={share} which={which} width={240} alt="" />
            </span>
          ),
      )}
    </span>
  )
}
