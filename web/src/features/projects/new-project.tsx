import { NumberField } from '@/ui/number'
import { control } from '@/project/controls'
import { ImagePlus, Music } from 'lucide-react'
import { type FormEvent, useState } from 'react'
import { useNavigate } from 'react-router'
import { client, settled, type Edit } from '@/api/client'
import { sendAll } from '@/features/contact-sheet'
import { addMusic, MUSIC_FILES } from '@/features/sound'
import { catalogue } from '@/project/catalogue'
import { openProject } from '@/project/connection'
import { placeAddress } from '@/project/places'
import { newId } from '@/project/project'
import { toTicks } from '@/project/times'
import { Button } from '@/ui/button'
import { Select } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { askForFiles } from '@/ui/files'
import { say } from '@/ui/notices'
import { FilmTemplates } from './film-templates'
import { type FrameChoice, FrameFields } from './frame-fields'

const PICTURES = 'image/*,.heic,.heif,.avif,.tif,.tiff'

/** Shape, size, rate, hold and join of a new project; with pictures at once, or blank. */
export function NewProject({ onClose, dropped }: { onClose: () => void; dropped: File[] }) {
  const navigate = useNavigate()
  const [title, setTitle] = useState('')
  const [frame, setFrame] = useState<FrameChoice>({ width: 1920, height: 1080, rate: '30' })
  const [hold, setHold] = useState(toTicks(3))
  const [join, setJoin] = useState({ kind: 'dissolve', length: toTicks(1) })
  const [files, setFiles] = useState<File[]>([])
  const [template, setTemplate] = useState<string | null>(null)
  const [song, setSong] = useState<File | null>(null)
  const [busy, setBusy] = useState(false)
  const pictures = [...dropped, ...files]
  const what = template ? 'the template takes them as they come' : 'each becomes a scene'
  const instant = catalogue().joins.find((j) => j.id === join.kind)?.instant

  const create = async (event: FormEvent) => {
    event.preventDefault()
    setBusy(true)
    try {
      const edits: Edit[] = [
        { edit: 'set_frame', ...frame },
        { edit: 'set_defaults', hold, join: { kind: join.kind, length: instant ? 0 : join.length } },
        ...(template ? [{ edit: 'put_on' as const, key: template, id: newId() }] : []),
      ]
      const { id } = await settled(client.POST('/api/projects', { body: { title: title.trim() || 'Untitled film', edits, copy_of: null } }))
      await openProject(id)
      // With pictures, to the desk, where they become scenes one after another; with a song alone, to where it is heard; else to where pictures are added.
      navigate(placeAddress(id, pictures.length || template ? 'desk' : song ? 'sound' : 'contact-sheet'))
      if (pictures.length) void sendAll(pictures, template ? 'template' : 'scenes')
      if (song) void addMusic([song])
    } catch (error) {
      say((error as Error).message, 'fault')
      setBusy(false)
    }
  }

  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="New project" description="Everything here can be changed later; nothing breaks.">
      <form onSubmit={create} className="space-y-5">
        <label className="block">
          <span className="mb-1 block font-medium">Title</span>
          <input value={title} onChange={(e) => setTitle(e.target.value)} placeholder="Untitled film" maxLength={200} className="h-9 w-full rounded-lg border hairline bg-card px-3" />
        </label>
        <FilmTemplates chosen={template} onChoose={setTemplate} />
        <FrameFields value={frame} onChange={setFrame} />
        <div className="flex flex-wrap items-end gap-4">
          <div>
            <span className="mb-1 block">Hold of a scene</span>
            <NumberField {...control('scene.hold')} label="Hold of a scene, s" compactLight tall slider={false} value={hold} onSet={setHold} />
          </div>
          <label className="block">
            <span className="mb-1 block">Join between scenes</span>
            <Select label="Join between scenes" value={join.kind} choices={catalogue().joins.map((j) => [j.id, j.label] as const)} onSet={(kind) => setJoin({ ...join, kind })} />
          </label>
          {!instant && (
            <div>
              <span className="mb-1 block">Its length</span>
              <NumberField {...control('join.length')} label="Its length, s" compactLight tall slider={false} value={join.length} onSet={(length) => setJoin({ ...join, length })} />
            </div>
          )}
        </div>
        <div className="flex items-center justify-between rounded-xl border border-dashed hairline px-4 py-3">
          <span className="text-soft">
            {pictures.length ? `${pictures.length} picture${pictures.length === 1 ? '' : 's'}: ${what}` : `Start ${template ? 'with empty drop zones' : 'blank'}, or with pictures: ${what}`}
          </span>
          <span className="flex gap-2">
            <Button onClick={() => void askForFiles({ accept: MUSIC_FILES, many: false }).then(([file]) => setSong(file ?? null))} title="The film begins with its music: cut the scenes on its beats">
              <Music size={15} /> <span className="max-w-32 truncate">{song?.name ?? 'Choose music'}</span>
            </Button>
            <Button onClick={() => void askForFiles({ accept: PICTURES }).then((chosen) => setFiles((before) => [...before, ...chosen]))}>
              <ImagePlus size={15} /> Choose pictures
            </Button>
          </span>
        </div>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="strong" type="submit" disabled={busy}>
            Create the project
          </Button>
        </div>
      </form>
    </Dialog>
  )
}
