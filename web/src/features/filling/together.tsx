import { useState } from 'react'
import type { TemplateFacts } from '@/api/client'
import { Button } from '@/ui/button'
import type { ListProps } from './choose'
import { FilmTile } from './tile'

const PIECES = [
  ['opening', 'It opens with', (t: TemplateFacts) => t.kind === 'opening'],
  ['body', 'The pictures are shown', (t: TemplateFacts) => t.kind === 'treatment' || t.kind === 'body'],
  ['closing', 'It closes with', (t: TemplateFacts) => t.kind === 'closing'],
] as const

type Piece = (typeof PIECES)[number][0]

/** An opening, what goes on for as long as there are pictures, and a closing: each from a template of its own. */
export function Together({ templates, used, project, pictures, busy, onMake }: ListProps) {
  const [picked, setPicked] = useState<Partial<Record<Piece, string | null>>>({})
  const chosen = PIECES.map(([id, , fits]) => (picked[id] === undefined ? (templates.find((t) => fits(t) && used.includes(t.key))?.key ?? null) : picked[id]) ?? null)
  const keys = chosen.filter((key): key is string => key !== null)
  return (
    <div className="mt-3 space-y-4">
      {PIECES.map(([id, heading, fits], n) => (
        <section key={id} aria-label={heading}>
          <h2 className="flex items-baseline gap-3 font-heading text-[17px] font-semibold">
            {heading}
            {chosen[n] && id !== 'body' && (
              <Button kind="link" onClick={() => setPicked({ ...picked, [id]: null })}>
                leave it out
              </Button>
            )}
          </h2>
          <ul className="flex gap-2 overflow-x-auto p-0.5 pb-2">
            {templates.filter(fits).map((t) => (
              <li key={t.key} className="w-52 shrink-0">
                <FilmTile template={t} project={project} pictures={pictures} on={chosen[n] === t.key} onChoose={() => setPicked({ ...picked, [id]: t.key })} />
              </li>
            ))}
          </ul>
        </section>
      ))}
      <div className="sticky bottom-0 flex items-center justify-end gap-3 border-t hairline bg-paper py-2.5">
        <span className="text-soft">Colours and faces of one name are set together.</span>
        <Button kind="strong" className="!h-11 !px-5" disabled={!chosen[1] || busy} onClick={() => onMake(keys)}>
          Make it of these
        </Button>
      </div>
    </div>
  )
}
