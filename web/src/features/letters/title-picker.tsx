import { useState } from 'react'
import type { Edit } from '@/api/client'
import { fits } from '@/features/pictures'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import type { DialogProps } from '@/project/dialogs'
import { newId } from '@/project/project'
import { Running } from '@/project/running'
import { chooseLayers, useSession } from '@/project/session'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'

const COUNTS = [
  ['any', 'Any'],
  ['1', 'One text'],
  ['2', 'Two'],
  ['3', 'Three'],
] as const
/** Shares of the scene's time at which a tile shows a title while it runs; it stands still where all of it is there. */
const SHOWN = [0.03, 0.08, 0.13, 0.18, 0.24, 0.3, 0.38, 0.55]
const STILL = SHOWN.length - 1

/** Title settings on one's own scene, seen before they are put on. */
export function TitlePicker({ onClose }: DialogProps) {
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? '')
  const [words, setWords] = useState('')
  const [count, setCount] = useState<(typeof COUNTS)[number][0]>('any')
  const [chosen, setChosen] = useState<string | null>(null)
  const [said, setSaid] = useState<string[]>([])
  const [id] = useState(newId)
  const all = catalogue().titles.filter((t) => fits(words, t.label, `${t.help} ${t.words}`) && (count === 'any' || t.texts === Number(count)))
  const spec = catalogue().titles.find((t) => t.id === chosen)
  const texts = said.slice(0, spec?.texts ?? 0)
  // What is left empty says what the setting says.
  const made = (title: string, told: string[]): Edit => ({ edit: 'add_title', scene, id, title, texts: told.every((t) => t) ? told : [] })
  const put = async (title: string) => {
    onClose()
    const told = texts.some((t) => t) ? Array.from({ length: spec?.texts ?? 0 }, (_, i) => texts[i] || '…') : []
    if (await edit({ edit: 'add_title', scene, id, title, texts: told })) chooseLayers([{ scene, layer: id }])
  }
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} wide title="Title settings" description="Texts with shapes around them, already in motion. Point at one to see it run on your own scene.">
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <input aria-label="Find a title setting" placeholder="Find by word" value={words} onChange={(e) => setWords(e.target.value)} className="h-8 w-48 rounded-lg border hairline bg-card px-2.5" />
        <Choice label="How many texts" value={count} choices={COUNTS} onSet={setCount} />
      </div>
      <ul aria-label="Title settings" className="grid max-h-[50vh] grid-cols-[repeat(auto-fill,minmax(215px,1fr))] gap-2.5 overflow-y-auto p-1">
        {all.map((t) => (
          <li key={t.id}>
            <button
              type="button"
              aria-pressed={chosen === t.id}
              onClick={() => setChosen(t.id)}
              onDoubleClick={() => void put(t.id)}
              className={`group w-full rounded-xl p-1.5 text-left ${chosen === t.id ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}
            >
              <Running scene={scene} edits={[made(t.id, [])]} shares={SHOWN} still={STILL} on={chosen === t.id} />
              <span className="mt-1 block font-semibold">{t.label}</span>
              <span className="block text-[12px] leading-snug text-soft">{t.help}</span>
            </button>
          </li>
        ))}
        {!all.length && <li className="col-span-full p-3 text-soft">No title setting is called so. Take fewer words.</li>}
      </ul>
      <div className="mt-4 flex items-end gap-3">
        {spec &&
          Array.from({ length: spec.texts }, (_, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: they are the first, second and third text
            <label key={i} className="min-w-0 flex-1 text-[12px] text-soft">
              {spec.texts === 1 ? 'What it says' : `${['First', 'Second', 'Third', 'Fourth'][i]} text`}
              <input
                value={said[i] ?? ''}
                onChange={(e) => setSaid((s) => Object.assign([...s], { [i]: e.target.value }))}
                className="mt-0.5 block h-8 w-full rounded-lg border hairline bg-card px-2.5 text-[13px] text-ink"
              />
            </label>
          ))}
        {!spec && <span className="flex-1" />}
        <Button kind="strong" disabled={!spec || !scene} onClick={() => chosen && void put(chosen)}>
          Put it on this scene
        </Button>
      </div>
    </Dialog>
  )
}
