import { Link2 } from 'lucide-react'
import type { ReactNode } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { catalogue } from '@/project/catalogue'
import { useProject } from '@/project/project'
import { Menu } from '@/ui/menu'
import { isMeasured, linksOf, sourceName, templateOf, type ValueOwner } from './values'

export type { ValueOwner } from './values'

/** The name of a value, which is also the way to what it follows. Null where it cannot follow anything. */
export type Links = (id: string, label: string, value: number | string | boolean | null) => ReactNode

/** Links of one part (`mount`, `camera`…) of layers, scenes, a look or the defaults. */
export function useLinks(owners: ValueOwner[], part: string): Links {
  const looks = useProject((s) => s.document.looks)
  const fields = useProject((s) => s.document.fields)
  const all = useProject(useShallow((s) => owners.map((o) => linksOf(s.document, o))))
  const template = useProject((s) => s.document.templates?.[templateOf(s.document, owners) ?? ''])
  return (id, label, value) => {
    const name = `${part}.${id}`
    if (!catalogue().natures[name] || !owners.length) return null
    const links = all.map((own) => own?.[name])
    const first = links[0]
    const same = first && links.every((l) => l?.source === first.source && l.id === first.id) ? first : null
    // A choice, a switch or a face follows dials and nothing else: there is something to say of it while a template is made.
    if (!isMeasured(name) && !links.some(Boolean) && (!template || template.origin)) return null
    const said = same ? `${label} follows ${sourceName({ looks, fields }, same, template)}` : links.some(Boolean) ? `${label}: some follow something` : `${label}: what it follows`
    return (
      <Menu
        align="start"
        entries={async () => (await import('./entries')).entriesOf(owners, name, label, value)}
        trigger={
          <button
            type="button"
            data-more
            tabIndex={links.some(Boolean) ? 0 : -1}
            aria-label={said}
            title={said}
            className={`flex max-w-full items-center gap-1 truncate text-left hover:underline ${links.some(Boolean) ? 'text-tarn' : 'decoration-rule'}`}
          >
            <span className="truncate">{label}</span>
            {links.some(Boolean) && <Link2 size={11} className="shrink-0" />}
          </button>
        }
      />
    )
  }
}
