import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { useShallow } from 'zustand/react/shallow'
import type { Doc, Edit } from '@/api/client'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { tryEdits } from '@/project/session'
import { IconButton } from '@/ui/button'
import { ColourField } from '@/ui/colour'
import { NumberField } from '@/ui/number'
import { declared, type Link } from './values'

/** How many values of the project follow a field. */
function followers(document: Doc, field: string): number {
  const owners = [
    document.defaults,
    ...Object.values(document.looks ?? {}),
    ...[...Object.values(document.scenes ?? {}), ...Object.values(document.groups ?? {})].flatMap((c) => [c, ...Object.values(c.layers ?? {})]),
  ]
  return owners.reduce((count, o) => count + Object.values((o as { links?: Record<string, Link> } | undefined)?.links ?? {}).filter((l) => l.source === 'field' && l.id === field).length, 0)
}

/** Numbers and colours of the project that others follow. */
export function Fields() {
  const fields = Object.entries(useProject((s) => s.document.fields) ?? {})
  const counts = useProject(useShallow((s) => Object.keys(s.document.fields ?? {}).map((id) => followers(s.document, id))))
  if (!fields.length)
    return <p className="text-[12px] text-soft">A number or colour that many follow, such as the colour of all mounts. Press the name of a value anywhere and choose “Make a field of it”.</p>
  return (
    <ul className="space-y-2">
      {fields.map(([id, field], i) => (
        <FieldRow key={id} id={id} name={field.name} of={field.of} value={field.value} count={counts[i] ?? 0} />
      ))}
    </ul>
  )
}

function FieldRow({ id, name, of, value, count }: { id: string; name: string; of: string; value: number | string; count: number }) {
  const [typed, setTyped] = useState<string | null>(null)
  const spec = declared(of)?.parameter
  const set = (v: number | string): Edit => ({ edit: 'set_field', id, value: v })
  const rename = () => {
    const wanted = typed?.trim()
    if (wanted && wanted !== name) void edit({ edit: 'set_field', id, name: wanted })
    setTyped(null)
  }
  return (
    <li className="rounded-lg border hairline bg-card px-2.5 py-1.5">
      <div className="flex items-center gap-2">
        <input
          aria-label={`Name of the field ${name}`}
          value={typed ?? name}
          maxLength={100}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={rename}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          className="h-6 min-w-0 flex-1 rounded bg-transparent px-1 font-semibold"
        />
        <span className="shrink-0 text-[12px] text-soft">{count === 0 ? 'followed by none' : count === 1 ? '1 follows' : `${count} follow`}</span>
        <IconButton size="tiny" label={`Remove the field ${name}: what follows it stays as it is`} onClick={() => void edit({ edit: 'remove_field', id })}>
          <Trash2 size={13} />
        </IconButton>
      </div>
      {spec &&
        (typeof value === 'number' ? (
          <NumberField
            label={spec.label}
            help={spec.help || undefined}
            value={value}
            minimum={spec.minimum ?? 0}
            maximum={spec.maximum ?? 1}
            step={spec.step ?? 0.01}
            usual={spec.usual}
            unit={spec.unit}
            scale={spec.scale}
            onTry={(v) => tryEdits([set(v)])}
            onSet={(v) => void edit(set(v))}
            onGiveUp={() => tryEdits(null)}
          />
        ) : (
          <ColourField label={spec.label} value={value} onTry={(v) => tryEdits([set(v)])} onSet={(v) => void edit(set(v))} />
        ))}
    </li>
  )
}
