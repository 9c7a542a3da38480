import { useMemo, useState } from 'react'
import { address } from '@/api/client'
import { chosenAfter } from '@/interaction/choosing'
import { ownPictures, pictureMark, useProject } from '@/project/project'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'

type Props = { title: string; description?: string; action: (count: number) => string; many?: boolean; onPick: (ids: string[]) => void; onClose: () => void }

/** Pictures of the contact sheet, to choose one or several of. */
export function PicturePicker({ title, description, action, many, onPick, onClose }: Props) {
  const project = useProject((s) => s.id)
  const media = useProject((s) => s.document.media)
  const [words, setWords] = useState('')
  const [chosen, setChosen] = useState<string[]>([])
  const found = useMemo(() => ownPictures(media).filter(([, m]) => fits(words, m.name, m.description)), [media, words])
  const order = found.map(([k]) => k)
  const pick = (ids: string[]) => {
    onClose()
    if (ids.length) onPick(ids)
  }
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} wide title={title} description={description}>
      <input aria-label="Find by word" placeholder="Find by word" value={words} onChange={(e) => setWords(e.target.value)} className="mb-3 h-8 w-64 rounded-lg border hairline bg-card px-2.5" />
      <ul aria-label="Pictures to choose" className="grid max-h-[58vh] grid-cols-[repeat(auto-fill,minmax(130px,1fr))] gap-2.5 overflow-y-auto p-1">
        {found.map(([id, m]) => (
          <li key={id} className="[content-visibility:auto] [contain-intrinsic-size:130px_126px]">
            <button
              type="button"
              aria-pressed={chosen.includes(id)}
              onClick={(e) => setChosen((c) => (many ? chosenAfter(order, c, id, { toggle: !e.shiftKey, range: e.shiftKey }) : [id]))}
              onDoubleClick={() => pick([id])}
              className={`w-full rounded-lg p-1.5 text-left ${chosen.includes(id) ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}
            >
              <span className="grid h-[84px] place-items-center">
                <img src={address.thumbnail(project, id, pictureMark(m))} alt="" loading="lazy" className="max-h-[84px] max-w-full" />
              </span>
              <span className="mt-1 block truncate text-[12px]">{m.name}</span>
            </button>
          </li>
        ))}
      </ul>
      {!found.length && <p className="text-soft">{words ? 'No picture has these words.' : 'There is no picture yet: add some on the contact sheet.'}</p>}
      <div className="mt-4 flex items-center justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button kind="strong" disabled={!chosen.length} onClick={() => pick(chosen)}>
          {action(chosen.length)}
        </Button>
      </div>
    </Dialog>
  )
}

/** Whether every word stands in one of the texts. */
export function fits(words: string, ...texts: (string | undefined | null)[]): boolean {
  const all = texts.join(' ').toLowerCase()
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((w) => all.includes(w))
}
