import { Link2 } from 'lucide-react'
import type { ReactNode } from 'react'
import { useShallow } from 'zustand/react/shallow'
import type { Edit } from '@/api/client'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { newId, useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { Menu, type MenuEntry } from '@/ui/menu'
import { declared, type Link, linksOf, sourceName, templateOf, type ValueOwner } from './values'

export type { ValueOwner } from './values'

/** The name of a value, which is also the way to what it follows. Null where it cannot follow anything. */
export type Links = (id: string, label: string, value: number | string | null) => ReactNode

/** Links of one part (`mount`, `camera`…) of layers, scenes, a look or the defaults. */
export function useLinks(owners: ValueOwner[], part: string): Links {
  const looks = useProject((s) => s.document.looks)
  const shared = useProject((s) => s.document.fields)
  const all = useProject(useShallow((s) => owners.map((o) => linksOf(s.document, o))))
  const templateId = useProject((s) => templateOf(s.document, owners))
  const template = useProject((s) => (templateId ? s.document.templates?.[templateId] : undefined))
  const into = useSession((s) => s.intoSources)
  return (id, label, value) => {
    const name = `${part}.${id}`
    const nature = catalogue().natures[name]
    if (!nature || !owners.length) return null
    const links = all.map((own) => own?.[name])
    const first = links[0]
    const same = first && links.every((l) => l?.source === first.source && l.id === first.id) ? first : null
    const values = owners.map((o) => ({ property: name, scene: o.scene ?? null, layer: o.layer ?? null, look: o.look ?? null }))
    const follow = (link: Link | null): Edit => ({ edit: 'link_values', values, link })
    const offer = (text: string, link: Link): MenuEntry => ({ label: text, checked: same?.source === link.source && (same.id ?? null) === (link.id ?? null), run: () => void edit(follow(link)) })
    const followers = owners.every((o) => o.scene)
    const looked = followers && catalogue().look_parts.some((p) => p.id === part)
    const fields = Object.entries(shared ?? {}).filter(([, f]) => catalogue().natures[f.of] === nature)
    const entries: MenuEntry[] = []
    if (links.some(Boolean)) {
      if (same) entries.push({ label: `Changing it changes ${sourceName({ looks, fields: shared }, same, template)}`, checked: into, run: () => useSession.setState({ intoSources: !into }) })
      entries.push({ label: 'Unlink: keep the value, follow nothing', run: () => void edit(follow(null)) }, 'rule')
    }
    if (looked) {
      entries.push(offer('Follow the project’s default', { source: 'default' }))
      for (const [look, record] of Object.entries(looks ?? {})) entries.push(offer(`Follow look “${record.name}”`, { source: 'look', id: look }))
    }
    for (const [field, record] of fields) entries.push(offer(`Follow field “${record.name}”`, { source: 'field', id: field }))
    if (entries.length && entries.at(-1) !== 'rule') entries.push('rule')
    entries.push({
      label: 'Make a field of it',
      disabled: value === null,
      run: () => {
        const field = newId()
        void edit({ edit: 'add_field', id: field, name: declared(name)?.label ?? label, like: values[0] as (typeof values)[number] }, follow({ source: 'field', id: field }))
      },
    })
    if (template && templateId && !template.origin) {
      const kind = typeof value === 'string' ? 'colour' : 'amount'
      entries.push({ label: 'Make a dial of it', disabled: value === null, run: () => void edit({ edit: 'make_dial', template: templateId, id: newId(), values }) })
      for (const [dial, record] of Object.entries(template.dials ?? {})) if (record.kind === kind) entries.push(offer(`Follow dial “${record.name}”`, { source: 'dial', id: dial }))
    }
    const said = same ? `${label} follows ${sourceName({ looks, fields: shared }, same, template)}` : links.some(Boolean) ? `${label}: some follow something` : `${label}: what it follows`
    return (
      <Menu
        align="start"
        entries={entries}
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
