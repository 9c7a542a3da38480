import { Redo2, SquarePen, Undo2 } from 'lucide-react'
import { useEffect } from 'react'
import { Link } from 'react-router'
import { redo, undo } from '@/project/connection'
import { KeptState } from '@/project/kept-state'
import { placeAddress } from '@/project/places'
import { useProject } from '@/project/project'
import { Brand } from '@/ui/brand'
import { IconButton } from '@/ui/button'
import { STEPS, type Step } from './steps'

type Props = { project: string | null; step: Step; made: boolean; connected: boolean; onStep: (step: Step) => void }

/** Where one is among the steps; what was done last can be taken back; the desk is one press away. */
export function Header({ project, step, made, connected, onStep }: Props) {
  const at = STEPS.findIndex(([s]) => s === step)
  return (
    <header className="flex shrink-0 flex-wrap items-center gap-x-4 border-b hairline px-4 max-sm:px-2">
      <div className="flex h-[46px] flex-1 items-center gap-3 whitespace-nowrap">
        <Brand />
        {project && <KeptState connected={connected} />}
      </div>
      <nav aria-label="Steps" className="order-last flex justify-center gap-1 max-md:w-full max-md:pb-1.5 md:order-none">
        {STEPS.map(([id, name], n) => (
          <button
            key={id}
            type="button"
            aria-current={id === step ? 'step' : undefined}
            disabled={id !== 'choose' && !made}
            onClick={() => onStep(id)}
            className={`flex h-11 items-center gap-2 rounded-lg px-2.5 disabled:opacity-45 ${id === step ? 'bg-deep font-semibold' : 'text-soft hover:text-ink'}`}
          >
            <span className={`grid size-6 shrink-0 place-items-center rounded-full text-[12.5px] font-semibold ${n <= at ? 'bg-brass text-on-ink' : 'border hairline'}`}>{n + 1}</span>
            <span className={id === step ? '' : 'max-sm:sr-only'}>{name}</span>
          </button>
        ))}
      </nav>
      <div className="flex flex-1 items-center justify-end gap-1">{project && <Undoing project={project} />}</div>
    </header>
  )
}

function Undoing({ project }: { project: string }) {
  const undoLabel = useProject((s) => s.undo)
  const redoLabel = useProject((s) => s.redo)
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLTextAreaElement || (event.target instanceof HTMLInputElement && event.target.type === 'text')
      if (typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
      event.preventDefault()
      if (event.shiftKey) redo()
      else undo()
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [])
  return (
    <>
      <IconButton label={undoLabel ? `Undo: ${undoLabel}` : 'Nothing to undo'} disabled={!undoLabel} onClick={undo} className="max-sm:size-10">
        <Undo2 size={18} />
      </IconButton>
      <IconButton label={redoLabel ? `Redo: ${redoLabel}` : 'Nothing to redo'} disabled={!redoLabel} onClick={redo} className="max-sm:size-10">
        <Redo2 size={18} />
      </IconButton>
      <Link to={placeAddress(project, 'desk')} title="Everything that can be changed; what is done here is kept" className="ml-1 inline-flex h-9 items-center gap-1.5 rounded-lg px-2.5 hover:bg-deep">
        <SquarePen size={16} />
        <span className="max-lg:sr-only">Open on the desk</span>
      </Link>
    </>
  )
}
