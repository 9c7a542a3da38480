import type { Edit } from '@/api/client'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { newId, useProject } from '@/project/project'
import { useSession } from '@/project/session'
import type { MenuEntry } from '@/ui/menu'
import { declared, isMeasured, type Link, linksOf, sourceName, templateOf, type ValueOwner } from './values'

/** What a value can follow, and the ways to follow nothing; `value` null: what is chosen differs. Loaded when it is first asked for. */
export function entriesOf(owners: ValueOwner[], name: string, label: string, value: number | string | boolean | null): MenuEntry[] {
  const { document } = useProject.getState()
  const into = useSession.getState().intoSources
  const nature = catalogue().natures[name]
  const links = owners.map((o) => linksOf(document, o)?.[name])
  const first = links[0]
  const same = first && links.every((l) => l?.source === first.source && l.id === first.id) ? first : null
  const templateId = templateOf(document, owners)
  const template = templateId ? document.templates?.[templateId] : undefined
  const values = owners.map((o) => ({ property: name, scene: o.scene ?? null, layer: o.layer ?? null, look: o.look ?? null }))
  const follow = (link: Link | null): Edit => ({ edit: 'link_values', values, link })
  const offer = (text: string, link: Link): MenuEntry => ({ label: text, checked: same?.source === link.source && (same.id ?? null) === (link.id ?? null), run: () => void edit(follow(link)) })
  const looked = owners.every((o) => o.scene) && catalogue().look_parts.some((p) => p.id === name.split('.')[0])
  const entries: MenuEntry[] = []
  if (links.some(Boolean)) {
    if (same) entries.push({ label: `Changing it changes ${sourceName(document, same, template)}`, checked: into, run: () => useSession.setState({ intoSources: !into }) })
    entries.push({ label: 'Unlink: keep the value, follow nothing', run: () => void edit(follow(null)) }, 'rule')
  }
  const measured = isMeasured(name)
  if (looked && measured) {
    entries.push(offer('Follow the project’s default', { source: 'default' }))
    for (const [look, record] of Object.entries(document.looks ?? {})) entries.push(offer(`Follow look “${record.name}”`, { source: 'look', id: look }))
  }
  for (const [field, record] of Object.entries(document.fields ?? {}))
    if (catalogue().natures[record.of] === nature) entries.push(offer(`Follow field “${record.name}”`, { source: 'field', id: field }))
  if (entries.length && entries.at(-1) !== 'rule') entries.push('rule')
  if (measured)
    entries.push({
      label: 'Make a field of it',
      disabled: value === null,
      run: () => {
        const field = newId()
        void edit({ edit: 'add_field', id: field, name: declared(name)?.label ?? label, like: values[0] as (typeof values)[number] }, follow({ source: 'field', id: field }))
      },
    })
  if (template && templateId && !template.origin) {
    const kind = dialKindOf(nature)
    entries.push({ label: 'Make a dial of it', disabled: value === null, run: () => void edit({ edit: 'make_dial', template: templateId, id: newId(), values }) })
    for (const [dial, record] of Object.entries(template.dials ?? {})) if (record.kind === kind) entries.push(offer(`Follow dial “${record.name}”`, { source: 'dial', id: dial }))
  }
  return entries
}

/** The kind of dial that a value of some nature follows as it is. */
function dialKindOf(nature: string | undefined): string {
  const [kind = ''] = (nature ?? '').split(' ')
  return { colour: 'colour', choice: 'choice', switch: 'switch', typeface: 'face', text: 'text' }[kind] ?? 'amount'
}
