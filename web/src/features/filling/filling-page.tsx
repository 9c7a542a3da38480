import { type ReactNode, useEffect } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import type { Filling } from '@/api/client'
import { arriving, Waiting } from '@/ui/arriving'
import { Button } from '@/ui/button'
import { fillingAddress, leadBy } from '@/project/places'
import { NotOpen } from '@/project/not-open'
import { useOpened } from '@/project/opened'
import { Choose } from './choose'
import { Footer } from './footer'
import { Header } from './header'
import { type Step, stepOf } from './steps'
import { useFilling } from './told'

const Add = arriving(() => import('./add').then((m) => m.Add))
const Adjust = arriving(() => import('./adjust').then((m) => m.Adjust))
const ExportStep = arriving(() => import('./export-step').then((m) => m.ExportStep))

/** What a step shows, and what comes next, is loaded while one looks at something else. */
const ASKED = { choose: [Add], add: [Add, Adjust], adjust: [Adjust, ExportStep], export: [ExportStep] } satisfies Record<Step, unknown>

/** Four steps from a template to a film, for people who only fill. */
export function FillingPage() {
  const { id } = useParams()
  const navigate = useNavigate()
  useEffect(() => leadBy((address) => void navigate(address)), [navigate])
  return id ? <Opened id={id} /> : <Whole id={null} step="choose" connected />
}

function Opened({ id }: { id: string }) {
  const { open, fault, connected } = useOpened(id)
  const [search] = useSearchParams()
  if (fault || !open) return <NotOpen fault={fault} />
  return <Whole id={id} step={stepOf(search.get('step'))} connected={connected} />
}

/** What is not known yet, or could not be told. */
function NotTold({ fault, onAgain }: { fault: string | null; onAgain: () => void }) {
  if (fault === null) return <Waiting />
  return (
    <div role="alert" className="grid h-full place-content-center justify-items-center gap-3 p-6 text-center">
      <p>{fault}</p>
      <Button onClick={onAgain}>Ask again</Button>
    </div>
  )
}

function Whole({ id, step, connected }: { id: string | null; step: Step; connected: boolean }) {
  const navigate = useNavigate()
  const { filling, fault, again } = useFilling(id)
  const go = (to: Step, project = id) => void navigate(fillingAddress(project, to))
  useEffect(() => {
    for (const page of ASKED[step]) page.ask()
  }, [step])
  const made = Boolean(filling?.templates.length)
  const once = (shown: (filling: Filling) => ReactNode) => (filling ? shown(filling) : <NotTold fault={fault} onAgain={again} />)
  const shown: Record<Step, () => ReactNode> = {
    choose: () => <Choose project={id} filling={filling} onBegun={(project) => go('choose', project)} onMade={(project) => go('add', project)} />,
    add: () => once((f) => <Add filling={f} />),
    adjust: () => once((f) => <Adjust filling={f} />),
    export: () => once((f) => <ExportStep filling={f} onStep={go} />),
  }
  return (
    <div className="flex h-full flex-col">
      <Header project={id} step={step} made={made} connected={connected} onStep={go} />
      <main className="min-h-0 flex-1 overflow-y-auto">{shown[id === null ? 'choose' : step]()}</main>
      <Footer step={step} made={made} filling={filling} onStep={go} />
    </div>
  )
}
