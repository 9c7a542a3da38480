import { Link2 } from 'lucide-react'
import { useState } from 'react'
import type { Edit } from '@/api/client'
import { fits } from '@/features/pictures'
import type { DialogProps } from '@/project/dialogs'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { newId, useProject } from '@/project/project'
import { reachedPhotos, useSession } from '@/project/session'
import { TriedFrame } from '@/project/tried-frame'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { FindAndSave } from '@/ui/find-and-save'
import { OwnEntry } from '@/ui/own-entry'

/** All looks on one's own photo: put one on the chosen photos, as a link or a copy, or make it the project's. */
export function LookPicker({ onClose }: DialogProps) {
  const [photos] = useState(reachedPhotos)
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? '')
  const looks = useProject((s) => s.document.looks)
  const present = useProject((s) => s.document.defaults?.look ?? null)
  const [words, setWords] = useState('')
  const [chosen, setChosen] = useState<string | null>(null)
  const [linked, setLinked] = useState(true)
  const own = Object.entries(looks ?? {}).filter(([id]) => !catalogue().looks.some((l) => l.id === id))
  const all = [...own.map(([id, look]) => ({ id, label: look.name, help: 'Saved in this project' })), ...catalogue().looks.map((l) => ({ ...l, label: looks?.[l.id]?.name ?? l.label }))].filter((l) =>
    fits(words, l.label, l.help),
  )
  const use = (id: string): Edit[] => [{ edit: 'use_look', look: id, photos, linked }]
  const sample = photos.filter((p) => p.scene === scene)
  const put = async (id: string) => {
    onClose()
    await edit(...use(id))
  }
  const save = async (name: string) => {
    const id = `look-${newId()}`
    const first = sample[0] ?? photos[0]
    if (!first || !(await edit({ edit: 'save_look', id, name, photo: first }))) return false
    setChosen(id)
    return true
  }
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} wide title="Looks" description="Mount, shadow, backdrop and correction under one name, shown on your own photo.">
      <FindAndSave thing="look" words={words} onWords={setWords} placeholder="Save this photo’s look as…" onSave={save} />
      <ul aria-label="Looks" className="grid max-h-[54vh] grid-cols-[repeat(auto-fill,minmax(215px,1fr))] gap-3 overflow-y-auto p-1">
        {all.map((look) => (
          <li key={look.id} className="relative">
            <button
              type="button"
              aria-pressed={chosen === look.id}
              onClick={() => setChosen(look.id)}
              onDoubleClick={() => void put(look.id)}
              className={`w-full rounded-xl p-1.5 text-left ${chosen === look.id ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}
            >
              <TriedFrame scene={scene} edits={[{ edit: 'use_look', look: look.id, photos: sample.length ? sample : photos }]} alt="" />
              <span className="mt-1.5 flex items-center gap-1.5 font-semibold">
                {look.label}
                {present === look.id && <span className="rounded-full bg-deep px-1.5 text-[11px] font-normal text-soft">project default</span>}
              </span>
              <span className="block text-[12px] leading-snug text-soft">{look.help}</span>
            </button>
            {looks?.[look.id] && (
              <OwnEntry
                name={look.label}
                naming="New name of the look"
                removing={`Take ${look.label} out of the project; photos keep how they look`}
                onRename={(name) => void edit({ edit: 'set_look', id: look.id, name })}
                onRemove={() => void edit({ edit: 'remove_look', id: look.id })}
              />
            )}
          </li>
        ))}
      </ul>
      <div className="mt-4 flex items-center gap-3">
        <label className="flex items-center gap-2" title="Linked photos follow every later change of the look">
          <input type="checkbox" checked={linked} onChange={(e) => setLinked(e.target.checked)} /> <Link2 size={14} /> Keep linked to the look
        </label>
        <span className="flex-1" />
        <Button disabled={!chosen || present === chosen} onClick={() => chosen && void edit({ edit: 'default_look', look: chosen })}>
          Make it the project’s default
        </Button>
        {present && <Button onClick={() => void edit({ edit: 'default_look', look: null })}>No default look</Button>}
        <Button kind="strong" disabled={!chosen || !photos.length} onClick={() => chosen && void put(chosen)}>
          {photos.length > 1 ? `Put it on ${photos.length} photos` : 'Put it on this photo'}
        </Button>
      </div>
    </Dialog>
  )
}
