import { type KeyboardEvent, useState } from 'react'
import type { Edit } from '@/api/client'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { Button } from '@/ui/button'
import type { FilmZone } from './told'

type Answer = { onTry: (edits: Edit[]) => void; onDone?: () => void }

/** The name of the film, which its first words say too. */
export function Name({ onTry, onDone }: Answer) {
  const title = useProject((s) => s.document.title ?? '')
  const named = (words: string): Edit => ({ edit: 'name_film', title: words.trim() || title })
  return <Typed label="Name of the film" before={title} most={200} lines={1} onType={(words) => onTry([named(words)])} onKeep={(words) => words.trim() && void edit(named(words))} onDone={onDone} />
}

/** Words of a drop zone. */
export function Words({ zone, onTry, onDone }: Answer & { zone: FilmZone }) {
  const said = (words: string | null): Edit => ({ edit: 'fill_zones', scene: zone.scene, fills: { [zone.zone]: words } })
  return (
    <>
      <Typed label={zone.name} before={zone.held ?? ''} most={zone.most} lines={2} onType={(words) => onTry([said(words)])} onKeep={(words) => void edit(said(words || null))} onDone={onDone} />
      {zone.fault && <p className="mt-1.5 text-rowan">{zone.fault}</p>}
      {!zone.required && zone.held !== null && (
        <Button kind="link" className="mt-2" onClick={() => void edit(said(null))}>
          Show nothing here
        </Button>
      )}
    </>
  )
}

type TypedProps = { label: string; before: string; most: number; lines: number; onType: (words: string) => void; onKeep: (words: string) => void; onDone?: () => void }

/** A field that shows at once what is typed; it is kept when one leaves it, or with Enter, which leads on. Escape gives it up. */
function Typed({ label, before, most, lines, onType, onKeep, onDone }: TypedProps) {
  const [typed, setTyped] = useState<string | null>(null)
  const keep = () => {
    if (typed !== null && typed !== before) onKeep(typed)
    setTyped(null)
  }
  const key = (event: KeyboardEvent) => {
    event.stopPropagation()
    if (event.key === 'Escape') {
      setTyped(null)
      onType(before)
    }
    if (event.key === 'Enter' && !event.shiftKey) {
      event.preventDefault()
      keep()
      onDone?.()
    }
  }
  const words = typed ?? before
  return (
    <>
      <textarea
        aria-label={label}
        // biome-ignore lint/a11y/noAutofocus: it is what is asked for
        autoFocus
        rows={lines}
        value={words}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => {
          setTyped(e.target.value)
          onType(e.target.value)
        }}
        onBlur={keep}
        onKeyDown={key}
        className="block w-full resize-y rounded-lg border hairline bg-paper px-3 py-2 text-[16px] [field-sizing:content]"
      />
      {most > 0 && words.length > most * 0.8 && (
        <p className={`mt-1 text-[12.5px] ${words.length > most ? 'text-rowan' : 'text-soft'}`}>
          {words.length} of {most} characters
        </p>
      )}
    </>
  )
}
