import { ArrowLeft, ArrowRight } from 'lucide-react'
import type { Filling } from '@/api/client'
import { Button } from '@/ui/button'
import { STEPS, type Step } from './steps'
import { pictured } from './told'

/** On to the next step, or back; and what is still missing for it. */
export function Footer({ step, made, filling, onStep }: { step: Step; made: boolean; filling: Filling | undefined; onStep: (step: Step) => void }) {
  const at = STEPS.findIndex(([s]) => s === step)
  const before = STEPS[at - 1]
  const after = STEPS[at + 1]
  if (step === 'choose' && !made) return null
  const empty = filling?.zones.filter((z) => pictured(z) && !z.by_hand && z.held === null).length ?? 0
  return (
    <footer className="flex shrink-0 items-center gap-3 border-t hairline px-4 py-2 max-sm:px-2">
      {before && (
        <Button onClick={() => onStep(before[0])} className="!h-11 !px-4" aria-label={`Back to: ${before[1]}`}>
          <ArrowLeft size={16} /> Back
        </Button>
      )}
      <span className="line-clamp-2 min-w-0 flex-1 text-right leading-tight text-soft">
        {step !== 'choose' && empty > 0 && (empty === 1 ? 'One place is still empty.' : `${empty} places are still empty.`)}
      </span>
      {after && (
        <Button kind="strong" onClick={() => onStep(after[0])} className="!h-11 !px-5">
          {after[1]} <ArrowRight size={16} />
        </Button>
      )}
    </footer>
  )
}
