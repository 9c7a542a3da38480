import { ArrowLeftRight, ChevronRight, Trash2 } from 'lucide-react'
import { useState } from 'react'
import type { Dial, EditOf, Template } from '@/api/client'
import { declared } from '@/features/links'
import { edit } from '@/project/connection'
import { control } from '@/project/controls'
import { calledOf } from '@/project/kinds'
import { inOrder } from '@/project/ordering'
import { useProject } from '@/project/project'
import { IconButton } from '@/ui/button'
import { ColourField } from '@/ui/colour'
import { NumberField } from '@/ui/number'
import { scenesOf } from './making-now'
import { Named } from './named'

type Followed = { key: string; name: string; property: string; scene: string; layer: string | null; low: number; high: number; colours: [string, string] }

/** The dials of a template that is made here: what they are called, how far they go, what follows them and from where to where. */
export function DialFields({ id, template }: { id: string; template: Template }) {
  return inOrder(template.dials).map(([dial, record]) => <OneDial key={dial} id={id} dial={dial} record={record} template={template} />)
}

function OneDial({ id, dial, record, template }: { id: string; dial: string; record: Dial; template: Template }) {
  const [open, setOpen] = useState(false)
  const set = (partial: Partial<EditOf<'set_dial'>>) => void edit({ edit: 'set_dial', template: id, dial, ...partial })
  const { minimum = 0, maximum = 1, step = 0.01, unit = '', scale = 1 } = record
  const reach = maximum - minimum
  const wide: [number, number] = [minimum - reach, maximum + reach]
  return (
    <div className="border-b hairline py-0.5 last:border-b-0">
      <span className="flex items-center gap-1">
        <IconButton size="tiny" label={`More of the dial ${record.name}`} onClick={() => setOpen(!open)}>
          <ChevronRight size={13} className={open ? 'rotate-90' : ''} />
        </IconButton>
        <span className="min-w-0 flex-1">
          <Named label="Dial" value={record.name} onSet={(name) => set({ name })} />
        </span>
        <IconButton size="tiny" label={`Remove the dial ${record.name}`} onClick={() => void edit({ edit: 'remove_dial', template: id, dial })}>
          <Trash2 size={13} />
        </IconButton>
      </span>
      {open && (
        <div className="pb-1 pl-5">
          {record.kind === 'amount' && (
            <>
              <NumberField {...control('dial.minimum')} value={minimum} usual={wide} step={step} unit={unit} scale={scale} onSet={(v) => set({ minimum: v })} />
              <NumberField {...control('dial.maximum')} value={maximum} usual={wide} step={step} unit={unit} scale={scale} onSet={(v) => set({ maximum: v })} />
            </>
          )}
          <Named long label="Group" value={record.group ?? ''} onSet={(group) => set({ group })} />
          <Named long label="Hint" value={record.help ?? ''} onSet={(help) => set({ help })} />
          <Following id={id} dial={dial} record={record} template={template} />
        </div>
      )}
    </div>
  )
}

/** What follows a dial; numbers with what they are at its least and at its greatest. */
function Following({ id, dial, record, template }: { id: string; dial: string; record: Dial; template: Template }) {
  const followed = useFollowed(id, dial, record)
  const drive = (f: Followed, low: number, high: number) =>
    void edit({ edit: 'drive_values', template: id, dial, values: [{ property: f.property, scene: f.scene, layer: f.layer, look: null }], mapping: { low, high } as EditOf<'drive_values'>['mapping'] })
  const mix = (f: Followed, colours: [string, string]) =>
    void edit({ edit: 'drive_values', template: id, dial, values: [{ property: f.property, scene: f.scene, layer: f.layer, look: null }], mapping: { colours } as EditOf<'drive_values'>['mapping'] })
  if (!followed.length) return <p className="text-[12px] text-soft">Nothing of “{template.name}” follows it.</p>
  return (
    <ul aria-label={`What follows ${record.name}`} className="mt-1 space-y-1.5">
      {followed.map((f) => {
        const parameter = declared(f.property)?.parameter
        return (
          <li key={f.key} className="text-[12px]">
            <span className="block truncate text-soft">{f.name}</span>
            {record.kind === 'amount' &&
              parameter?.kind === 'colour' &&
              f.colours.map((colour, end) => (
                <ColourField
                  // biome-ignore lint/suspicious/noArrayIndexKey: the two ends
                  key={end}
                  label={`${f.name}, where the dial is ${end ? 'greatest' : 'least'}`}
                  heading={end ? 'Greatest' : 'Least'}
                  value={colour}
                  onSet={(v) => mix(f, end ? [f.colours[0], v] : [v, f.colours[1]])}
                />
              ))}
            {record.kind === 'amount' && parameter?.kind === 'number' && (
              <span className="flex items-center gap-1">
                {(['low', 'high'] as const).map((end) => (
                  <NumberField
                    key={end}
                    compactLight
                    slider={false}
                    label={`${f.name}, where the dial is ${end === 'low' ? 'least' : 'greatest'}`}
                    value={f[end]}
                    minimum={parameter.minimum ?? control('dial.minimum').minimum}
                    maximum={parameter.maximum ?? control('dial.maximum').maximum}
                    step={parameter.step ?? 0.01}
                    unit={parameter.unit}
                    scale={parameter.scale}
                    onSet={(v) => (end === 'low' ? drive(f, v, f.high) : drive(f, f.low, v))}
                  />
                ))}
                <IconButton size="tiny" label={`The other way round: ${f.name}`} onClick={() => drive(f, f.high, f.low)}>
                  <ArrowLeftRight size={13} />
                </IconButton>
              </span>
            )}
          </li>
        )
      })}
    </ul>
  )
}

function useFollowed(id: string, dial: string, record: Dial): Followed[] {
  const scenes = useProject((s) => s.document.scenes)
  return scenesOf(scenes, id).flatMap(([scene, s]) =>
    [[null, s] as const, ...inOrder(s.layers)].flatMap(([layer, owner]) =>
      Object.entries(owner.links ?? {}).flatMap(([property, link]) => {
        if (link.source !== 'dial' || link.id !== dial) return []
        const who = layer ? calledOf(useProject.getState(), { scene, layer }) : s.name || 'Scene'
        const { low, high, colours } = link.mapping ?? {}
        return [
          {
            key: `${scene} ${layer} ${property}`,
            name: `${who}: ${declared(property)?.label ?? property}`,
            property,
            scene,
            layer,
            low: low ?? record.minimum ?? 0,
            high: high ?? record.maximum ?? 1,
            colours: (colours as [string, string] | null) ?? ['#000000', '#ffffff'],
          },
        ]
      }),
    ),
  )
}
