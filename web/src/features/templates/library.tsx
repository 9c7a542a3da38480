import { Dices, FolderOpen, Heart } from 'lucide-react'
import { useEffect, useState } from 'react'
import type { TemplateFacts } from '@/api/client'
import { fits } from '@/features/pictures'
import { showScenes } from '@/playback/screen'
import { edit } from '@/project/connection'
import type { DialogProps } from '@/project/dialogs'
import { inOrder } from '@/project/ordering'
import { goTo } from '@/project/places'
import { newId, useProject } from '@/project/project'
import { Running } from '@/project/running'
import { Button, IconButton } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { say } from '@/ui/notices'
import { forgetLibrary, like, listedTemplates, openFile, putOn, removeTemplate, type Treated, triedOn, useTreating } from './treating'

const SIZES = [
  ['any', 'Any number'],
  ['one', 'One picture'],
  ['few', 'Two to four'],
  ['many', 'Five or more'],
  ['words', 'With words'],
  ['liked', 'Favourites'],
  ['own', 'My own'],
] as const

const fitsSize = (t: TemplateFacts, size: string): boolean =>
  size === 'liked'
    ? t.favourite
    : size === 'own'
      ? t.kept !== ''
      : size === 'any' || (size === 'words' ? t.texts > 0 : size === 'one' ? t.pictures <= 1 : size === 'few' ? t.pictures > 1 && t.pictures < 5 : t.pictures >= 5)

/** Where a tile stands in the time of its scene, and through which places it runs. */
const SHOWN = [0.06, 0.2, 0.34, 0.48, 0.62, 0.76, 0.9]
const STILL = 4

const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`

/** Every template with one's own pictures in it: looked through, and put on. */
export function Library({ onClose }: DialogProps) {
  const treated = useTreating()
  const [templates, setTemplates] = useState<TemplateFacts[] | null>(null)
  const [fault, setFault] = useState('')
  const [words, setWords] = useState('')
  const [size, setSize] = useState<string>('any')
  const [chosen, setChosen] = useState<string | null>(null)
  const [seed, setSeed] = useState(1)
  const read = () => void listedTemplates().then(setTemplates, (error: Error) => setFault(error.message))
  useEffect(read, [])
  const again = () => {
    forgetLibrary()
    read()
  }
  const open = async () => {
    const key = await openFile()
    if (!key) return
    again()
    setChosen(key)
  }
  const found = (templates ?? []).filter((t) => fitsSize(t, size) && fits(words, t.name, t.about, t.words, t.kind))
  const one = found.find((t) => t.key === chosen)
  const put = async (key: string) => {
    onClose()
    await putAll(key, treated, seed)
  }
  const what = treated.scenes.length ? count(treated.scenes.length, 'scene') : count(treated.pictures.length, 'picture')
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} wide title="Treat with…" description={`Every template, with your own pictures in it. It goes onto ${what}; one undo takes it back.`}>
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <input aria-label="Find a template" placeholder="Find by word" value={words} onChange={(e) => setWords(e.target.value)} className="h-8 w-40 rounded-lg border hairline bg-card px-2.5" />
        <Choice label="Which" value={size} choices={SIZES} onSet={setSize} />
      </div>
      {fault && <p role="alert">{fault}</p>}
      <div className="grid grid-cols-[1fr_224px] gap-5">
        <ul aria-label="Templates" className="grid max-h-[54vh] grid-cols-[repeat(auto-fill,minmax(184px,1fr))] content-start gap-2.5 overflow-y-auto p-1">
          {found.map((t) => (
            <li key={t.key} className="[content-visibility:auto] [contain-intrinsic-size:184px_158px]">
              <Tile template={t} treated={treated} seed={seed} on={chosen === t.key} onChoose={() => setChosen(t.key)} onPut={() => void put(t.key)} />
            </li>
          ))}
          {templates && !found.length && <li className="col-span-full text-soft">No template goes by these words.</li>}
        </ul>
        {one ? <About template={one} onChanged={again} /> : <p className="text-soft">Point at a template to see it move. Choose one to read what it takes.</p>}
      </div>
      <div className="mt-4 flex items-center gap-3 border-t hairline pt-3">
        <Button title="Where a template chooses by chance: the same number always chooses the same" onClick={() => setSeed((s) => (s % 9999) + 1)}>
          <Dices size={15} /> Vary ({seed})
        </Button>
        <Button onClick={() => void open()}>
          <FolderOpen size={15} /> Open a template’s file…
        </Button>
        <span className="flex-1" />
        <Button kind="strong" disabled={!one} onClick={() => one && void put(one.key)}>
          Put it on {what}
        </Button>
      </div>
    </Dialog>
  )
}

type TileProps = { template: TemplateFacts; treated: Treated; seed: number; on: boolean; onChoose: () => void; onPut: () => void }

function Tile({ template, treated, seed, on, onChoose, onPut }: TileProps) {
  const tried = triedOn(template.key, treated, seed)
  return (
    <button
      type="button"
      aria-pressed={on}
      title={template.about}
      onClick={onChoose}
      onDoubleClick={onPut}
      className={`w-full rounded-xl p-1.5 text-left ${on ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}
    >
      <Running scene={tried.scene} edits={tried.edits} shares={SHOWN} still={STILL} on={on} />
      <span className="mt-1 block truncate font-medium">{template.name}</span>
      <span className="block truncate text-[12px] text-soft">{takes(template)}</span>
    </button>
  )
}

/** What a template asks for, in a few words. */
const takes = (t: TemplateFacts): string => [t.pictures ? count(t.pictures, 'picture') : '', t.texts ? count(t.texts, 'text') : ''].filter(Boolean).join(' · ')

function About({ template: t, onChanged }: { template: TemplateFacts; onChanged: () => void }) {
  const done = (work: Promise<unknown>) => void work.then(onChanged, (error: Error) => say(error.message, 'fault'))
  return (
    <section aria-label={t.name} className="min-w-0">
      <h3 className="flex items-center justify-between gap-2 font-heading text-[17px] font-semibold">
        {t.name}
        <IconButton label={t.favourite ? 'No favourite any more' : 'Make it a favourite'} onClick={() => done(like(t.id, !t.favourite))}>
          <Heart size={15} className={t.favourite ? 'fill-current text-rowan' : ''} />
        </IconButton>
      </h3>
      <p className="mb-3 mt-1 text-[13px]">{t.about}</p>
      <ul className="space-y-1 text-[12.5px] text-soft">
        <li>
          {takes(t)} a scene{t.scenes > 1 ? `, in ${t.scenes} variations` : ''}
        </li>
        <li>{count(t.dials, 'dial')} to turn afterwards, under Scene</li>
        {t.repeats && <li>As many scenes as your pictures fill</li>}
        {t.kept && (
          <li>
            {t.source === 'made' ? 'Made here' : 'From a file'}, version {t.version}
          </li>
        )}
      </ul>
      {t.kept && (
        <p className="mt-3 flex flex-wrap gap-x-4 gap-y-1">
          <a className="text-tarn hover:underline" href={`/api/templates/${t.kept}/file`} download>
            Save its file
          </a>
          <button type="button" className="text-rowan hover:underline" onClick={() => done(removeTemplate(t.kept))}>
            Remove from the library
          </button>
        </p>
      )}
    </section>
  )
}

/** Puts a template on all that is treated, and shows what came of it. */
async function putAll(key: string, treated: Treated, seed: number): Promise<void> {
  const use = newId()
  if (!(await edit(putOn(key, use, treated, seed)))) return
  const made = inOrder(useProject.getState().document.scenes).flatMap(([id, scene]) => (scene.template?.use === use ? [id] : []))
  const [first] = made
  if (first) showScenes([first])
  say(`${count(made.length, 'scene')} made. Turn its dials under Scene.`, 'news', treated.pictures.length ? { label: 'Go to the desk', run: () => goTo('desk') } : undefined)
}
