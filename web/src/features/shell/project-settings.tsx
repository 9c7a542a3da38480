import { type DialogProps, openDialog } from '@/project/dialogs'
import { useProject } from '@/project/project'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { later } from '@/ui/later'

const DefaultsFields = later<DialogProps>(() => import('@/features/details/defaults').then((m) => m.DefaultsFields))

/** Frame shape, size and rate; and the defaults that reach every scene with nothing of its own. */
export function ProjectSettings({ onClose }: DialogProps) {
  const frame = useProject((s) => s.document.frame)
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} side title="Project settings" description="Placements and views are relative to the frame: a new shape or size breaks nothing.">
      <div className="flex items-center justify-between gap-3">
        <p className="font-mono text-[12.5px]">
          {frame?.width} × {frame?.height} · {frame?.rate} frames/s
        </p>
        <Button onClick={() => openDialog('frame')}>Change the frame…</Button>
      </div>
      <h3 className="mt-6 border-t hairline pt-5 font-heading text-[16px] font-semibold">Defaults</h3>
      <p className="mb-3 text-soft">They reach every scene that has no value of its own.</p>
      <DefaultsFields onClose={onClose} />
    </Dialog>
  )
}
