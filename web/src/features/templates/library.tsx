import { Dices, FolderOpen } from 'lucide-react'
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
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { say } from '@/ui/notices'
import { About } from './about'
import { count, takes } from './told'
import { forgetLibrary, listedTemplates, openFile, putOn, type Treated, triedOn, useTreating } from './treating'
import { ANY, fitsWish, Wishes } from './wishes'

/** Where a tile stands in the time of its scene, and through which places it runs. */
const SHOWN = [0.06, 0.2, 0.34, 0.48, 0.62, 0.76, 0.9]
const STILL = 4

/** Every template with one's own pictures in it: looked through, and put on. */
export function Library({ onClose }: DialogProps) {
  const treated = useTreating()
  const [templates, setTemplates] = useState<TemplateFacts[] | null>(null)
  const [fault, setFault] = useState('')
  const [words, setWords] = useState('')
  const [wanted, setWanted] = useState(ANY)
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
  const found = (templates ?? []).filter((t) => fitsWish(t, wanted) && fits(words, t.name, t.about, t.words, t.kind))
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
        <Wishes wanted={wanted} onSet={(partial) => setWanted({ ...wanted, ...partial })} />
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
        <Button disabled={!one} title="As new scenes with nothing behind, to be exported see-through and laid over film elsewhere" onClick={() => one && void layOver(one, [], onClose)}>
          See-through
        </Button>
        {treated.scenes.length > 0 && (
          <Button disabled={!one} title="Above what the scenes show already, without its ground" onClick={() => one && void layOver(one, treated.scenes, onClose)}>
            Lay it over
          </Button>
        )}
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

/** Lays a template over scenes as they are, or over nothing. */
async function layOver(template: TemplateFacts, scenes: string[], onClose: () => void): Promise<void> {
  if (!(await edit({ edit: 'lay_over', key: template.key, id: newId(), scenes }))) return
  onClose()
  const over = scenes.length ? `lies over ${count(scenes.length, 'scene')}` : 'stands at the end of the film, with nothing behind it'
  say(`“${template.name}” ${over}. Its words and dials are under Scene.`)
}

/** Puts a template on all that is treated, and shows what came of it. */
async function putAll(key: string, treated: Treated, seed: number): Promise<void> {
  const use = newId()
  if (!(await edit(putOn(key, use, treated, seed)))) return
  const made = inOrder(useProject.getState().document.scenes).flatMap(([id, scene]) => (scene.template?.use === use ? [id] : []))
  const [first] = made
  if (first) showScenes([first])
  const placed = new Set(made.flatMap((id) => Object.values(useProject.getState().document.scenes?.[id]?.layers ?? {}).flatMap((l) => (l.kind === 'photo' ? [l.media] : []))))
  const over = treated.pictures.filter((id) => !placed.has(id)).length
  const left = over ? ` ${count(over, 'picture')} found no place in it and ${over === 1 ? 'stays' : 'stay'} on the contact sheet.` : ''
  say(`${count(made.length, 'scene')} made. Turn its dials under Scene.${left}`, 'news', treated.pictures.length ? { label: 'Go to the desk', run: () => goTo('desk') } : undefined)
}
