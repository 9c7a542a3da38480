import { address } from '@/api/client'
import { ArrowLeft, ArrowRight } from 'lucide-react'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { Button, IconButton } from '@/ui/button'
import { Painted } from '@/ui/painted'

/** The scenes in their order: one is looked at, moved earlier or later, or left out. */
export function Scenes({ listed, scene, onLook }: { listed: string[]; scene: string; onLook: (scene: string) => void }) {
  const project = useProject((s) => s.id)
  const names = useProject((s) => s.document.scenes)
  const marks = useProject((s) => s.marks)
  const at = listed.indexOf(scene)
  const move = (before: string | null) => void edit({ edit: 'move_scenes', ids: [scene], before })
  return (
    <div className="shrink-0">
      <div className="flex items-center gap-1">
        <span className="min-w-0 flex-1 truncate text-soft">
          Scene {at + 1} of {listed.length}
          {names?.[scene]?.name && `: ${names[scene].name}`}
        </span>
        <IconButton label="Show this scene earlier" disabled={at <= 0} className="!size-10" onClick={() => move(listed[at - 1] ?? null)}>
          <ArrowLeft size={18} />
        </IconButton>
        <IconButton label="Show this scene later" disabled={at >= listed.length - 1} className="!size-10" onClick={() => move(listed[at + 2] ?? null)}>
          <ArrowRight size={18} />
        </IconButton>
        <Button kind="quiet" disabled={listed.length < 2} className="!h-10" onClick={() => void edit({ edit: 'remove_scenes', ids: [scene] })}>
          Leave it out
        </Button>
      </div>
      <ul aria-label="Scenes" className="flex gap-1.5 overflow-x-auto p-0.5 pb-1.5">
        {listed.map((id, n) => (
          <li key={id} className="shrink-0">
            <button
              type="button"
              aria-current={id === scene}
              aria-label={`Scene ${n + 1}`}
              onClick={() => onLook(id)}
              className={`block overflow-hidden rounded-md ${id === scene ? 'ring-2 ring-brass' : ''}`}
            >
              <Painted src={address.end(project, id, 'settled', marks[id] ?? '')} alt="" className="h-16 w-auto" />
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}
