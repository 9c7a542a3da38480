import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { client, settled, type TrialFinding } from '@/api/client'
import type { DialogProps } from '@/project/dialogs'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { Dialog } from '@/ui/dialog'

const SHOWN_SCENES = 3
const SHARES = [0.2, 0.7]
const SMALL_PX = 240
const LARGE_PX = 960

type Seen = { trial: string; scene: string; share: number; said: string; aspect: number }

const frameOf = (path: string, trial: string, scene: string, share: number, width: number) => `${path}/${trial}/frame?scene=${scene}&share=${share}&width=${width}`

/** A wall of frames: the template that the seen scene belongs to, on every set of awkward pictures, with what is wrong written under each. */
export function Trying({ onClose }: DialogProps) {
  const project = useProject((s) => s.id)
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? '')
  const template = useProject((s) => s.document.scenes?.[scene]?.template?.template ?? '')
  const name = useProject((s) => s.document.templates?.[template]?.name)
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      wide
      title={`Try “${name ?? ''}”`}
      description="On pictures and words that nobody hopes for. Press a frame, or what is wrong with it, to see it large."
    >
      <div className="max-h-[66vh] overflow-y-auto">
        <TrialWall project={project} template={template} />
      </div>
    </Dialog>
  )
}

/** A template on every set of awkward pictures and words. */
export function TrialWall({ project, template }: { project: string; template: string }) {
  const revision = useProject((s) => s.revision)
  const [seen, setSeen] = useState<Seen | null>(null)
  const { data, error } = useQuery({
    queryKey: ['trials', project, template],
    queryFn: () => settled(client.GET('/api/projects/{project}/templates/{template}/trials', { params: { path: { project, template } } })),
  })
  const path = `/api/projects/${project}/templates/${template}/trials`
  return (
    <>
      {error && <p role="alert">{error.message}</p>}
      {seen && (
        <figure className="mb-3">
          <button type="button" aria-label="Back to the wall" onClick={() => setSeen(null)} className="block w-full">
            <img
              src={`${frameOf(path, seen.trial, seen.scene, seen.share, LARGE_PX)}&r=${revision}`}
              alt={seen.said}
              className="mx-auto max-h-[56vh] rounded bg-surround"
              style={{ aspectRatio: seen.aspect }}
            />
          </button>
          <figcaption className="mt-1 text-center text-[13px]">{seen.said}</figcaption>
        </figure>
      )}
      {!seen && (
        <ul aria-label="Trials" className="grid grid-cols-[repeat(auto-fill,minmax(320px,1fr))] gap-x-6 gap-y-4 p-1">
          {data?.trials.map((t) => (
            <li key={t.id}>
              <h3 className="font-heading text-[15px] font-semibold">{t.label}</h3>
              <p className="mb-1 text-[12px] text-soft">{t.about}</p>
              <TrialRow path={path} trial={t.id} project={project} template={template} revision={revision} onSee={setSeen} />
            </li>
          ))}
        </ul>
      )}
    </>
  )
}

type RowProps = { path: string; trial: string; project: string; template: string; revision: number; onSee: (seen: Seen) => void }

function TrialRow({ path, trial, project, template, revision, onSee }: RowProps) {
  const { data, error } = useQuery({
    queryKey: ['trial', project, template, trial, revision],
    queryFn: () => settled(client.GET('/api/projects/{project}/templates/{template}/trials/{trial}', { params: { path: { project, template, trial } } })),
  })
  if (error) return <p className="text-rowan">{error.message}</p>
  if (!data) return <p className="text-soft">Trying…</p>
  const shown = data.scenes.slice(0, SHOWN_SCENES)
  const shares = shown.length > 1 ? SHARES.slice(1) : SHARES
  const see = (scene: string, share: number, said: string) => onSee({ trial, scene, share, said, aspect: data.aspect })
  return (
    <>
      <div className="flex gap-1.5">
        {shown.flatMap((scene) =>
          shares.map((share) => (
            <button key={`${scene} ${share}`} type="button" aria-label={`See it large, scene ${data.scenes.indexOf(scene) + 1}`} onClick={() => see(scene, share, '')} className="min-w-0">
              <img
                loading="lazy"
                src={`${frameOf(path, trial, scene, share, SMALL_PX)}&r=${revision}`}
                alt=""
                className="h-[84px] rounded bg-surround object-contain"
                style={{ aspectRatio: data.aspect }}
              />
            </button>
          )),
        )}
        {data.scenes.length > SHOWN_SCENES && <span className="self-end text-[12px] text-soft">and {data.scenes.length - SHOWN_SCENES} more scenes</span>}
      </div>
      <Findings findings={data.findings} onSee={(f) => see(f.scene ?? data.scenes[0] ?? '', f.share, f.message)} />
    </>
  )
}

/** What is wrong, each once, the worst first. */
function Findings({ findings, onSee }: { findings: TrialFinding[]; onSee: (finding: TrialFinding) => void }) {
  const told = findings.filter((f, i) => findings.findIndex((g) => g.message === f.message) === i)
  if (!told.length) return <p className="mt-1 text-[12.5px] text-lichen">Nothing is wrong.</p>
  return (
    <ul className="mt-1 space-y-0.5">
      {told.map((f) => (
        <li key={f.message}>
          <button type="button" onClick={() => onSee(f)} className="text-left text-[12.5px] text-rowan hover:underline">
            {f.message}
          </button>
        </li>
      ))}
    </ul>
  )
}
