import { Trash2 } from 'lucide-react'
import { type ReactNode, useState } from 'react'
import { client, type Layer, type SceneRule, settled, type Template, type Zone } from '@/api/client'
import { useApplied } from '@/project/applied'
import { edit } from '@/project/connection'
import { control } from '@/project/controls'
import { calledOf } from '@/project/kinds'
import { inOrder } from '@/project/ordering'
import { useProject } from '@/project/project'
import { Button, IconButton } from '@/ui/button'
import { Select } from '@/ui/choice'
import { say } from '@/ui/notices'
import { NumberField } from '@/ui/number'
import { Row, Tick } from '@/ui/row'
import { TRY } from './commands'
import { forgetLibrary } from './treating'

const FITTINGS = [
  ['fill', 'Fills the zone'],
  ['whole', 'Whole in it'],
  ['shape', 'Zone takes its shape'],
] as const

/** A template that is made here: what others may change in the scene that is seen, and the way into the library. */
export function Making({ id, template, scene, children }: { id: string; template: Template; scene: string; children: ReactNode }) {
  const part = useProject((s) => s.document.scenes?.[scene]?.template?.part ?? '')
  const rule = template.scenes?.[part] ?? {}
  const applied = useApplied()
  const dials = inOrder(template.dials)
  return (
    <>
      <Named label="Name" value={template.name ?? ''} onSet={(name) => void edit({ edit: 'set_template', id, name })} />
      <Named label="About it" value={template.about ?? ''} onSet={(about) => void edit({ edit: 'set_template', id, about })} />
      <p className="mb-1 mt-2 text-[12px] font-semibold">Drop zones of this scene</p>
      <ZoneSwitches id={id} template={template} scene={scene} />
      <p className="mb-1 mt-2 text-[12px] font-semibold">What may become of it</p>
      <Rules rule={rule} now={applied(scene).hold ?? 0} onSet={(partial) => void edit({ edit: 'set_template', id, scenes: { [part]: partial } })} />
      <p className="mb-1 mt-2 text-[12px] font-semibold">Dials</p>
      {!dials.length && <p className="text-[12.5px] text-soft">Press the name of a number or colour, and choose “Make a dial of it”.</p>}
      {dials.map(([dial, d]) => (
        <span key={dial} className="flex items-center gap-1">
          <span className="min-w-0 flex-1">
            <Named label="Dial" value={d.name} onSet={(name) => void edit({ edit: 'set_dial', template: id, dial, name })} />
          </span>
          <IconButton size="tiny" label={`Remove the dial ${d.name}`} onClick={() => void edit({ edit: 'remove_dial', template: id, dial })}>
            <Trash2 size={13} />
          </IconButton>
        </span>
      ))}
      {children}
      <Button size="small" className="mt-2.5 w-full" onClick={TRY.run}>
        Try it on awkward pictures…
      </Button>
      <SaveIt id={id} />
    </>
  )
}

/** A text that is kept when its field is left. */
function Named({ label, value, onSet }: { label: string; value: string; onSet: (text: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null)
  const leave = () => {
    const wanted = typed?.trim()
    setTyped(null)
    if (wanted && wanted !== value) onSet(wanted)
  }
  return (
    <Row label={label}>
      <input
        aria-label={label === 'Dial' ? `Name of the dial ${value}` : label}
        value={typed ?? value}
        maxLength={label === 'Name' || label === 'Dial' ? 100 : 2000}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={leave}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur()
          if (e.key === 'Escape') setTyped(null)
        }}
        className="h-7 min-w-0 flex-1 rounded-lg border hairline bg-card px-2"
      />
    </Row>
  )
}

/** Photos and texts of the scene, each a drop zone or not. */
function ZoneSwitches({ id, template, scene }: { id: string; template: Template; scene: string }) {
  const layers = useProject((s) => s.document.scenes?.[scene]?.layers)
  const numbers = inOrder(template.zones).map(([k]) => k)
  const offered = inOrder(layers).filter((entry): entry is [string, Extract<Layer, { kind: 'photo' | 'text' }>] => entry[1].kind === 'photo' || entry[1].kind === 'text')
  return (
    <ul aria-label="Drop zones">
      {offered.map(([key, layer]) => {
        const zone = layer.zone ? template.zones?.[layer.zone] : undefined
        const ref = { scene, layer: key }
        return (
          <li key={key} className="border-b hairline py-0.5 last:border-b-0">
            <ZoneSwitch
              name={calledOf(useProject.getState(), ref)}
              number={layer.zone ? numbers.indexOf(layer.zone) + 1 : null}
              onSwitch={(on) => void edit({ edit: on ? 'make_zones' : 'unmake_zones', layers: [ref] })}
            />
            {zone && layer.zone && <ZoneFields id={id} zone={layer.zone} record={zone} />}
          </li>
        )
      })}
      {!offered.length && <li className="text-[12.5px] text-soft">This scene has no photo and no text.</li>}
    </ul>
  )
}

function ZoneSwitch({ name, number, onSwitch }: { name: string; number: number | null; onSwitch: (on: boolean) => void }) {
  return (
    <label className="flex h-[27px] items-center gap-2">
      <input type="checkbox" aria-label={`${name} is a drop zone`} checked={number !== null} onChange={(e) => onSwitch(e.target.checked)} />
      <span className="truncate">
        {number !== null && <span className="mr-1 font-mono text-brass">{number}</span>}
        {name}
      </span>
    </label>
  )
}

function ZoneFields({ id, zone, record }: { id: string; zone: string; record: Zone }) {
  const set = (partial: Partial<Zone>) => void edit({ edit: 'set_zone', template: id, zone, ...partial })
  return (
    <div className="pb-1 pl-5">
      <Named label="Zone’s name" value={record.name ?? ''} onSet={(name) => set({ name })} />
      {record.takes !== 'text' && (
        <Row label="Other shapes">
          <Select
            label={`How ${record.name} fits other shapes`}
            size="small"
            className="min-w-0 flex-1"
            value={record.fitting ?? 'fill'}
            choices={FITTINGS}
            onSet={(fitting) => set({ fitting: fitting as Zone['fitting'] })}
          />
        </Row>
      )}
      <Tick label="Has to be filled" value={record.required ?? true} onSet={(required) => set({ required })} />
    </div>
  )
}

function Rules({ rule, now, onSet }: { rule: Partial<SceneRule>; now: number; onSet: (partial: Partial<SceneRule>) => void }) {
  const hold = control('scene.hold')
  return (
    <>
      <Tick label="Repeats while there are pictures" value={rule.repeats ?? false} onSet={(repeats) => onSet({ repeats })} />
      <Tick label="Left out where pictures are too few" value={rule.optional ?? false} onSet={(optional) => onSet({ optional })} />
      <Tick label="Stands no less than…" value={rule.least != null} onSet={(on) => onSet({ least: on ? now : null })} />
      {rule.least != null && <NumberField {...hold} label="At least" value={rule.least} onSet={(least) => onSet({ least })} />}
      <Tick label="Stands no more than…" value={rule.most != null} onSet={(on) => onSet({ most: on ? now : null })} />
      {rule.most != null && <NumberField {...hold} label="At most" value={rule.most} onSet={(most) => onSet({ most })} />}
    </>
  )
}

/** Into the library, as the next version of what it became before. */
function SaveIt({ id }: { id: string }) {
  const project = useProject((s) => s.id)
  const [busy, setBusy] = useState(false)
  const save = async () => {
    setBusy(true)
    try {
      const saved = await settled(client.POST('/api/projects/{project}/templates', { params: { path: { project } }, body: { template: id } }))
      forgetLibrary()
      say(`“${saved.name}” ${saved.version} is in the library.`)
    } catch (error) {
      say((error as Error).message, 'fault')
    }
    setBusy(false)
  }
  return (
    <Button kind="strong" size="small" className="mt-2.5 w-full" disabled={busy} onClick={() => void save()}>
      {busy ? 'Saving…' : 'Save to the library'}
    </Button>
  )
}
