import { Plus, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { address, sendFont } from '@/api/client'
import { fits } from '@/features/pictures'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import type { DialogProps } from '@/project/dialogs'
import { newId, useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { Button, IconButton } from '@/ui/button'
import { Select } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { askForFiles } from '@/ui/files'
import { say } from '@/ui/notices'
import { useTheme } from '@/ui/theme'
import { chosenTexts } from './commands'
import { textOf, useLetters } from './writing'

const KINDS = [
  ['any', 'All kinds'],
  ['sans', 'Sans'],
  ['serif', 'Serif'],
  ['slab', 'Slab'],
  ['display', 'Display'],
  ['handwriting', 'Handwriting'],
  ['mono', 'Monospaced'],
  ['script', 'For a script'],
  ['own', 'Added here'],
] as const
const FONTS = '.ttf,.otf,.woff2,font/ttf,font/otf,font/woff2'

type Face = { id: string; label: string; kind: string; scripts: string[]; note: string }

/** All faces in one's own words: found by name, kind and script; fonts of one's own are added here. */
export function FacePicker({ onClose }: DialogProps) {
  const [texts] = useState(chosenTexts)
  const writing = useSession((s) => s.writing)
  const { from, to } = useLetters()
  const project = useProject((s) => s.id)
  const own = useProject((s) => s.document.fonts)
  const title = useProject((s) => s.document.title)
  const [words, setWords] = useState('')
  const [kind, setKind] = useState<string>('any')
  const [script, setScript] = useState('any')
  const [busy, setBusy] = useState(false)
  const ink = useTheme((s) => s.theme) === 'dark' ? 'e8e2d4' : '2b2620'
  const sample =
    (texts[0] &&
      textOf(texts[0])
        .replace(/\{[^}]*\}/g, ' ')
        .trim()
        .slice(0, 26)) ||
    (title ?? '').slice(0, 26)
  const shipped: Face[] = catalogue().families.map((f) => ({
    id: f.id,
    label: f.label,
    kind: f.kind,
    scripts: f.scripts,
    note: [f.scripts.join(', '), f.weights[0] === f.weights[1] ? 'one weight' : `weights ${f.weights[0]}–${f.weights[1]}`, ...(f.italic ? ['italic'] : [])].join(' · '),
  }))
  const all = [...Object.entries(own ?? {}).map(([id, f]): Face => ({ id, label: f.name, kind: 'own', scripts: [], note: 'Added to this project' })), ...shipped].filter(
    (f) => fits(words, f.label, f.note) && (kind === 'any' || f.kind === kind) && (script === 'any' || f.scripts.includes(script)),
  )
  const scripts = [...new Set(shipped.flatMap((f) => f.scripts))]
  const letters = writing && from !== to ? writing : null
  const use = async (family: string) => {
    onClose()
    if (letters) await edit({ edit: 'set_letters', text: letters, start: Math.min(from, to), stop: Math.max(from, to), family })
    else await edit({ edit: 'set_layers', layers: texts, setting: { family } })
  }
  const add = async () => {
    const files = await askForFiles({ accept: FONTS })
    setBusy(true)
    for (const file of files) {
      try {
        const record = await sendFont(project, file)
        await edit({ edit: 'add_fonts', fonts: [{ ...record, id: `font-${newId()}` }] })
      } catch (error) {
        say(`${file.name}: ${(error as Error).message}`, 'fault')
      }
    }
    setBusy(false)
  }
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      wide
      title="Faces"
      description={letters ? 'For the chosen letters alone.' : 'In your own words. A letter that a face has not is shown in one that stands in.'}
    >
      <div className="mb-3 flex items-center gap-3">
        <input aria-label="Find a face" placeholder="Find by name" value={words} onChange={(e) => setWords(e.target.value)} className="h-8 w-44 rounded-lg border hairline bg-card px-2.5" />
        <Select label="Kind" value={kind} choices={KINDS} onSet={setKind} />
        <Select label="Script" value={script} choices={[['any', 'All scripts'], ...scripts.map((s) => [s, s] as const)]} onSet={setScript} />
        <span className="flex-1" />
        <Button disabled={busy} onClick={() => void add()}>
          <Plus size={14} /> {busy ? 'Checking…' : 'Add a font…'}
        </Button>
      </div>
      <ul aria-label="Faces" className="grid max-h-[58vh] grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-2 overflow-y-auto p-1">
        {all.map((f) => (
          <li key={f.id} className="relative">
            <button type="button" onClick={() => void use(f.id)} className="w-full overflow-hidden rounded-xl border hairline bg-card p-2.5 text-left hover:ring-2 hover:ring-brass">
              <img src={address.faceSample(project, f.id, sample, ink)} alt="" loading="lazy" className="h-[44px] max-w-none" />
              <span className="mt-1 block font-semibold">{f.label}</span>
              <span className="block truncate text-[12px] text-soft">{f.note}</span>
            </button>
            {own?.[f.id] && (
              <IconButton size="tiny" label={`Take ${f.label} out of the project`} className="absolute right-2 top-2 bg-paper/80" onClick={() => void edit({ edit: 'remove_font', id: f.id })}>
                <Trash2 size={13} />
              </IconButton>
            )}
          </li>
        ))}
        {!all.length && <li className="col-span-full p-3 text-soft">No face is called so, of this kind and script.</li>}
      </ul>
    </Dialog>
  )
}
