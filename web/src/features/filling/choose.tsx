import { useQuery, useQueryClient } from '@tanstack/react-query'
import { FolderOpen } from 'lucide-react'
import { type DragEvent, useState } from 'react'
import { client, type Filling, sendTemplate, settled, type TemplateFacts } from '@/api/client'
import { ACCEPTED, droppedFiles } from '@/features/contact-sheet'
import { edit } from '@/project/connection'
import { ownPictures, useProject } from '@/project/project'
import { pixels, shapeName } from '@/project/shapes'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { askForFiles } from '@/ui/files'
import { useDoing } from '@/ui/doing'
import { say } from '@/ui/notices'
import { addPictures, begun, composed, type FrameSize } from './making'
import { FilmTile } from './tile'
import { Together } from './together'

const FRAMES = [
  ['16:9', 'Wide', 16, 9],
  ['1:1', 'Square', 1, 1],
  ['9:16', 'Upright', 9, 16],
] as const
const SHORTER = 1080
const PACKAGE = /\.(oaktemplate|zip)$/i

type Props = { project: string | null; filling: Filling | undefined; onBegun: (project: string) => void; onMade: (project: string) => void }

/** Which template: each is seen with one's own pictures as soon as there are any. */
export function Choose({ project, filling, onBegun, onMade }: Props) {
  const queries = useQueryClient()
  const { data, error } = useQuery({ queryKey: ['templates'], queryFn: () => settled(client.GET('/api/templates')) })
  const media = useProject((s) => (project ? s.document.media : undefined))
  const own = useProject((s) => (project ? s.document.frame : undefined))
  const [frame, setFrame] = useState<FrameSize>(pixels(16, 9, SHORTER))
  const [way, setWay] = useState<'whole' | 'together'>('whole')
  const { busy, doing } = useDoing()
  const pictures = ownPictures(media).map(([id]) => id)
  const templates = data?.templates ?? []
  const used = filling?.templates.map((t) => t.key) ?? []
  const size: FrameSize = own ? { width: own.width ?? 1920, height: own.height ?? 1080 } : frame

  const made = async (keys: string[]) => {
    if (!project) return onMade(await begun(frame, [composed(keys, [])]))
    if (keys.join() === used.join() || (await edit(composed(keys, pictures)))) onMade(project)
  }
  const make = (keys: string[]) => doing(() => made(keys))
  const shaped = (shape: string) => {
    const [, , across, down] = FRAMES.find(([id]) => id === shape) ?? FRAMES[0]
    const wanted = pixels(across, down, Math.min(size.width, size.height))
    if (project) void edit({ edit: 'set_frame', ...wanted })
    else setFrame(wanted)
  }
  const take = (files: File[]) =>
    doing(async () => {
      if (!files.length) return
      const packages = files.filter((f) => PACKAGE.test(f.name))
      const opened: TemplateFacts[] = []
      for (const file of packages) opened.push(await sendTemplate(file))
      if (packages.length) await queries.invalidateQueries({ queryKey: ['templates'] })
      const [only, ...more] = opened
      // Whoever opens one template wants it.
      if (only && !more.length && files.length === 1) return await made([only.key])
      for (const template of opened) say(`“${template.name}” is here: choose it below.`)
      const rest = files.filter((f) => !packages.includes(f))
      if (!rest.length) return
      if (!project) onBegun(await begun(frame, []))
      await addPictures(rest)
    })
  const drop = async (event: DragEvent) => {
    event.preventDefault()
    const files = await droppedFiles(event.dataTransfer)
    void take(files)
  }
  return (
    <div className="mx-auto max-w-6xl px-5 py-6 max-sm:px-3" onDragOver={(e) => e.preventDefault()} onDrop={(e) => void drop(e)}>
      <h1 className="font-heading text-[26px] font-semibold">What should it look like?</h1>
      <p className="mt-1 text-soft">
        {pictures.length
          ? 'Each template with your own pictures. What you put in goes over when you choose another.'
          : 'Choose a template; your pictures come next. Or drop them here first, and see every template with them.'}
      </p>
      <div className="mt-4 flex flex-wrap items-center gap-x-5 gap-y-2">
        <Choice label="How the film is made" value={way} choices={WAYS} onSet={setWay} />
        <Choice label="Shape of the film" value={shapeName(size.width, size.height)} choices={FRAMES.map(([id, name]) => [id as string, name] as const)} onSet={shaped} />
        <Button onClick={() => void askForFiles({ accept: '.oaktemplate,.zip', many: false }).then(take)}>
          <FolderOpen size={15} /> Open a template’s file…
        </Button>
        {!pictures.length && <Button onClick={() => void askForFiles({ accept: ACCEPTED }).then(take)}>Pictures first…</Button>}
      </div>
      {error && <p role="alert">{error.message}</p>}
      {way === 'whole' ? (
        <Whole templates={templates} used={used} project={project} pictures={pictures} busy={busy} onMake={make} />
      ) : (
        <Together templates={templates} used={used} project={project} pictures={pictures} busy={busy} onMake={make} />
      )}
    </div>
  )
}

const WAYS = [
  ['whole', 'A whole film'],
  ['together', 'Put one together'],
] as const

export type ListProps = { templates: TemplateFacts[]; used: string[]; project: string | null; pictures: string[]; busy: boolean; onMake: (keys: string[]) => void }

/** Whole films first, then treatments, which go on for as long as there are pictures. */
function Whole({ templates, used, project, pictures, busy, onMake }: ListProps) {
  const rank = (t: TemplateFacts) => (t.kept ? 0 : t.kind === 'film' ? 1 : 2)
  const listed = templates.filter((t) => t.kind === 'film' || t.kind === 'treatment' || t.kind === 'body' || t.kept).sort((a, b) => rank(a) - rank(b))
  return (
    <ul aria-label="Templates" aria-busy={busy} className="mt-4 grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-3 max-sm:grid-cols-1">
      {listed.map((t) => (
        <li key={t.key} className="[content-visibility:auto] [contain-intrinsic-size:250px_230px]">
          <FilmTile template={t} project={project} pictures={pictures} on={used.length === 1 && used[0] === t.key} about onChoose={() => !busy && onMake([t.key])} />
        </li>
      ))}
    </ul>
  )
}
