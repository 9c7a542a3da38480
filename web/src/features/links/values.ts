import type { Doc, Parameter, Template } from '@/api/client'
import { catalogue } from '@/project/catalogue'
import { layersOf } from '@/project/project'

/** What has values: a layer, a scene (layer null), a look, or (nothing named) the project's defaults. */
export type ValueOwner = { scene?: string; layer?: string | null; look?: string }

export type Link = { source: 'field' | 'look' | 'default' | 'dial'; id?: string | null }

const partsOf = () => [...catalogue().look_parts, ...catalogue().drawn_parts, ...catalogue().stage_parts, { id: 'placement', label: 'Placement', parameters: catalogue().placement }]

/** How a value is shown, and what it may be, by its name (`mount.border`). */
export function declared(name: string): { label: string; parameter: Parameter } | undefined {
  const [part = '', id = ''] = name.split('.')
  const found = partsOf().find((p) => p.id === part)
  const parameter = found?.parameters.find((p) => p.id === id) ?? catalogue().controls.find((c) => c.id === name)
  return parameter && { label: found ? `${found.label} ${parameter.label.toLowerCase()}` : parameter.label, parameter }
}

/** Whether a value is a number or colour, and not a choice, a switch, a face or a text. */
export const isMeasured = (name: string): boolean => !/^(choice|switch|typeface|text) /.test(catalogue().natures[name] ?? '')

/** Links of what has values, by name. */
export function linksOf(document: Doc, owner: ValueOwner): Record<string, Link> | undefined {
  const record = owner.look ? document.looks?.[owner.look] : !owner.scene ? document.defaults : owner.layer ? layersOf(document, owner.scene)[owner.layer] : document.scenes?.[owner.scene]
  return record?.links as Record<string, Link> | undefined
}

/** The template that what has values is made by, where all of it is made by one; its id, and whether it is made in this project. */
export function templateOf(document: Doc, owners: ValueOwner[]): string | null {
  const used = owners.map((o) => document.scenes?.[o.scene ?? '']?.template?.template ?? null)
  return used[0] && used.every((u) => u === used[0]) ? used[0] : null
}

/** What a link leads to, by name. */
export function sourceName(document: Pick<Doc, 'looks' | 'fields'>, link: Link, template?: Template): string {
  if (link.source === 'default') return 'the project’s default'
  if (link.source === 'dial') return `dial “${template?.dials?.[link.id ?? '']?.name ?? '?'}”`
  const name = link.source === 'look' ? document.looks?.[link.id ?? '']?.name : document.fields?.[link.id ?? '']?.name
  return `${link.source} “${name ?? '?'}”`
}
