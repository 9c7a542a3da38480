import { Link2 } from 'lucide-react'
import { useState } from 'react'
import type { Edit } from '@/api/client'
import { fits } from '@/features/pictures'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import type { DialogProps } from '@/project/dialogs'
import { newId, useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { TriedFrame } from '@/project/tried-frame'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { FindAndSave } from '@/ui/find-and-save'
import { OwnEntry } from '@/ui/own-entry'
import { chosenTexts } from './commands'

/** All text styles on one's own text: put one on the chosen texts, as a link or a copy; save what a text looks like as one. */
export function StylePicker({ onClose }: DialogProps) {
  const [texts] = useState(chosenTexts)
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? '')
  const styles = useProject((s) => s.document.styles)
  const [words, setWords] = useState('')
  const [chosen, setChosen] = useState<string | null>(null)
  const [linked, setLinked] = useState(true)
  const shipped = catalogue().text_styles
  const own = Object.entries(styles ?? {}).filter(([id]) => !shipped.some((s) => s.id === id))
  const all = [...own.map(([id, s]) => ({ id, label: s.name, help: 'Saved in this project' })), ...shipped.map((s) => ({ ...s, label: styles?.[s.id]?.name ?? s.label }))].filter((s) =>
    fits(words, s.label, s.help),
  )
  const use = (id: string): Edit => ({ edit: 'use_style', style: id, texts, linked })
  const put = async (id: string) => {
    onClose()
    await edit(use(id))
  }
  const save = async (name: string) => {
    const id = `style-${newId()}`
    const first = texts[0]
    if (!first || !(await edit({ edit: 'save_style', id, name, text: first }))) return false
    setChosen(id)
    return true
  }
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      wide
      title="Text styles"
      description="Letters, ink, panel and shadow under one name, shown on your own text. Texts that are linked follow a style."
    >
      <FindAndSave thing="text style" words={words} onWords={setWords} placeholder="Save how this text looks as…" onSave={save} />
      <ul aria-label="Text styles" className="grid max-h-[54vh] grid-cols-[repeat(auto-fill,minmax(215px,1fr))] gap-3 overflow-y-auto p-1">
        {all.map((style) => (
          <li key={style.id} className="relative">
            <button
              type="button"
              aria-pressed={chosen === style.id}
              onClick={() => setChosen(style.id)}
              onDoubleClick={() => void put(style.id)}
              className={`w-full rounded-xl p-1.5 text-left ${chosen === style.id ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}
            >
              <TriedFrame scene={scene} share={0.5} edits={[use(style.id)]} alt="" />
              <span className="mt-1.5 block font-semibold">{style.label}</span>
              <span className="block text-[12px] leading-snug text-soft">{style.help}</span>
            </button>
            {styles?.[style.id] && (
              <OwnEntry
                name={style.label}
                naming="New name of the text style"
                removing={`Take ${style.label} out of the project; texts keep how they look`}
                onRename={(name) => void edit({ edit: 'set_style', id: style.id, name })}
                onRemove={() => void edit({ edit: 'remove_style', id: style.id })}
              />
            )}
          </li>
        ))}
      </ul>
      <div className="mt-4 flex items-center gap-3">
        <label className="flex items-center gap-2" title="Linked texts follow every later change of the style">
          <input type="checkbox" checked={linked} onChange={(e) => setLinked(e.target.checked)} /> <Link2 size={14} /> Keep linked to the style
        </label>
        <span className="flex-1" />
        <Button kind="strong" disabled={!chosen || !texts.length} onClick={() => chosen && void put(chosen)}>
          {texts.length > 1 ? `Put it on ${texts.length} texts` : 'Put it on this text'}
        </Button>
      </div>
    </Dialog>
  )
}
