import { useState } from 'react'
import { DefaultsFields } from '@/features/details'
import { type FrameChoice, FrameFields } from '@/features/projects/frame-fields'
import { edit, useProject } from '@/project/store'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'

/** Frame shape, size and rate; and the defaults that reach every scene with nothing of its own. */
export function ProjectSettings({ onClose }: { onClose: () => void }) {
  const frame = useProject((s) => s.document.frame)
  const present: FrameChoice = { width: frame?.width ?? 1920, height: frame?.height ?? 1080, rate: frame?.rate ?? '30' }
  const [choice, setChoice] = useState(present)
  const changed = choice.width !== present.width || choice.height !== present.height || choice.rate !== present.rate
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} side title="Project settings" description="Placements and views are relative to the frame: a new shape or size breaks nothing.">
      <FrameFields value={choice} onChange={setChoice} />
      <div className="mt-4 flex justify-end">
        <Button kind="strong" disabled={!changed} onClick={() => void edit({ edit: 'set_frame', ...choice })}>
          Change the frame
        </Button>
      </div>
      <h3 className="mt-6 border-t hairline pt-5 font-heading text-[16px] font-semibold">Defaults</h3>
      <p className="mb-3 text-soft">They reach every scene that has no value of its own.</p>
      <DefaultsFields />
    </Dialog>
  )
}
