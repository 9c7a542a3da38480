import type { Edit } from '@/api/client'
import { useState } from 'react'
import { type FrameChoice, FrameFields } from '@/features/projects'
import { inOrder } from '@/project/ordering'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { TriedFrame } from '@/project/tried-frame'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { say } from '@/ui/notices'

/** Another frame for the whole film, every scene seen in it before it is accepted. */
export function Reframe({ onClose }: { onClose: () => void }) {
  const frame = useProject((s) => s.document.frame)
  const scenes = useProject((s) => s.document.scenes)
  const present: FrameChoice = { width: frame?.width ?? 1920, height: frame?.height ?? 1080, rate: frame?.rate ?? '30' }
  const [choice, setChoice] = useState(present)
  const changed = choice.width !== present.width || choice.height !== present.height || choice.rate !== present.rate
  const [filling, setFilling] = useState<'keep' | 'anew'>('keep')
  const shape = choice.width * present.height !== choice.height * present.width
  const made: Edit = { edit: 'set_frame', ...choice, filling }
  const tall = choice.width < choice.height
  const accept = async () => {
    onClose()
    if (await edit(made)) say('The film has its new frame. One undo takes it back.')
  }
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      wide
      title="Frame of the film"
      description="What fills the frame fills the new one, what stands in it stays in it, layouts are made anew, and subjects are kept in view. Look through the scenes, then accept."
    >
      <FrameFields value={choice} onChange={setChoice} />
      {shape && (
        <label className="mt-3 flex items-start gap-2">
          <input type="checkbox" className="mt-1 accent-brass" checked={filling === 'keep'} onChange={(e) => setFilling(e.target.checked ? 'keep' : 'anew')} />
          <span>
            Photos that filled the frame go on filling it <span className="text-soft">(where their subject still fits; else, and without this, the fit is found anew by their shape)</span>
          </span>
        </label>
      )}
      <ul
        aria-label="Scenes in the new frame"
        className={`mt-4 grid max-h-[44vh] gap-2.5 overflow-y-auto p-1 ${tall ? 'grid-cols-[repeat(auto-fill,minmax(104px,1fr))]' : 'grid-cols-[repeat(auto-fill,minmax(176px,1fr))]'}`}
      >
        {inOrder(scenes).map(([id, scene]) => (
          <li key={id} className="min-w-0">
            <TriedFrame scene={id} edits={changed ? [made] : []} width={tall ? 112 : 192} alt={`${scene.name} in the new frame`} />
            <span className="mt-0.5 block truncate text-[12px]">{scene.name || 'Scene'}</span>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Keep the present frame</Button>
        <Button kind="strong" disabled={!changed} onClick={() => void accept()}>
          Accept the new frame
        </Button>
      </div>
    </Dialog>
  )
}
