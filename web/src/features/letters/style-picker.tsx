import { Link2, Pencil, Trash2 } from 'lucide-react'
import { useState } from 'react'
import type { Edit } from '@/api/client'
import { fits } from '@/features/pictures'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import type { DialogProps } from '@/project/dialogs'
import { newId, useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { TriedFrame } from '@/project/tried-frame'
import { Button, IconButton } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { chosenTexts } from './commands'

/** All text styles on one's own text: put one on the chosen texts, as a link or a copy; save what a text looks like as one. */
export function StylePicker({ onClose }: DialogProps) {
  const [texts] = useState(chosenTexts)
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? '')
  const styles = useProject((s) => s.document.styles)
  const [words, setWords] = useState('')
  const [chosen, setChosen] = useState<string | null>(null)
  const [linked, setLinked] = useState(true)
  const [name, setName] = useState('')
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
  const save = async () => {
    const id = `style-${newId()}`
    const first = texts[0]
    if (first && (await edit({ edit: 'save_style', id, name: name.trim(), text: first }))) {
      setName('')
      setChosen(id)
    }
  }
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      wide
      title="Text styles"
      description="Letters, ink, panel and shadow under one name, shown on your own text. Texts that are linked follow a style."
    >
      <div className="mb-3 flex items-center gap-3">
        <input aria-label="Find a text style" placeholder="Find by word" value={words} onChange={(e) => setWords(e.target.value)} className="h-8 w-48 rounded-lg border hairline bg-card px-2.5" />
        <span className="flex-1" />
        <input
          aria-label="Name of a new text style"
          placeholder="Save how this text looks as…"
          value={name}
          maxLength={100}
          onChange={(e) => setName(e.target.value)}
          className="h-8 w-56 rounded-lg border hairline bg-card px-2.5"
        />
        <Button disabled={!name.trim()} onClick={() => void save()}>
          Save the style
        </Button>
      </div>
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
            {styles?.[style.id] && <OwnStyle id={style.id} name={style.label} />}
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

/** What can be done to a style of the project: another name, and away with it. */
function OwnStyle({ id, name }: { id: string; name: string }) {
  const [typed, setTyped] = useState<string | null>(null)
  const accept = () => {
    const wanted = typed?.trim()
    setTyped(null)
    if (wanted && wanted !== name) void edit({ edit: 'set_style', id, name: wanted })
  }
  return (
    <span className="absolute inset-x-2.5 top-2.5 flex justify-end gap-1">
      {typed !== null && (
        <input
          // biome-ignore lint/a11y/noAutofocus: it appears because somebody asked to rename
          autoFocus
          aria-label="New name of the text style"
          value={typed}
          maxLength={100}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={accept}
          onKeyDown={(e) => {
            if (e.key === 'Escape') setTyped(null)
            else if (e.key === 'Enter') accept()
            else return
            e.preventDefault()
            e.stopPropagation()
          }}
          className="h-6 min-w-0 flex-1 rounded border hairline bg-card px-1.5"
        />
      )}
      <IconButton size="tiny" label={`Rename ${name}`} className="bg-paper/80" onClick={() => setTyped(name)}>
        <Pencil size={12} />
      </IconButton>
      <IconButton size="tiny" label={`Take ${name} out of the project; texts keep how they look`} className="bg-paper/80" onClick={() => void edit({ edit: 'remove_style', id })}>
        <Trash2 size={13} />
      </IconButton>
    </span>
  )
}
