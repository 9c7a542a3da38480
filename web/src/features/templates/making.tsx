import { Trash2 } from 'lucide-react'
import type { ReactNode } from 'react'
import type { Layer, Template } from '@/api/client'
import { edit } from '@/project/connection'
import { calledOf } from '@/project/kinds'
import { inOrder } from '@/project/ordering'
import { goTo } from '@/project/places'
import { useProject } from '@/project/project'
import { Button, IconButton } from '@/ui/button'
import { Named } from './named'

/** A template that is made here, beside the controls that it is made of: what others may change in the scene that is seen, and the way to the workshop. */
export function Making({ id, template, scene, children }: { id: string; template: Template; scene: string; children: ReactNode }) {
  return (
    <>
      <Named label="Name" value={template.name ?? ''} onSet={(name) => void edit({ edit: 'set_template', id, name })} />
      <p className="mb-1 mt-2 text-[12px] font-semibold">Drop zones of this scene</p>
      <ZoneSwitches template={template} scene={scene} />
      <p className="mb-1 mt-2 text-[12px] font-semibold">Dials</p>
      <DialNames id={id} template={template} />
      {children}
      <Button size="small" className="mt-2.5 w-full" onClick={() => goTo('workshop')}>
        Go on in the workshop
      </Button>
    </>
  )
}

/** Dials by their names, which can be changed; each can be removed. */
export function DialNames({ id, template }: { id: string; template: Template }) {
  const dials = inOrder(template.dials)
  if (!dials.length) return <p className="text-[12.5px] text-soft">On the desk, press the name of a number, colour or choice, and choose “Make a dial of it”.</p>
  return dials.map(([dial, d]) => (
    <span key={dial} className="flex items-center gap-1">
      <span className="min-w-0 flex-1">
        <Named label="Dial" value={d.name} onSet={(name) => void edit({ edit: 'set_dial', template: id, dial, name })} />
      </span>
      <IconButton size="tiny" label={`Remove the dial ${d.name}`} onClick={() => void edit({ edit: 'remove_dial', template: id, dial })}>
        <Trash2 size={13} />
      </IconButton>
    </span>
  ))
}

/** Photos and texts of the scene, each a drop zone or not. */
function ZoneSwitches({ template, scene }: { template: Template; scene: string }) {
  const layers = useProject((s) => s.document.scenes?.[scene]?.layers)
  const numbers = inOrder(template.zones).map(([k]) => k)
  const offered = inOrder(layers).filter((entry): entry is [string, Extract<Layer, { kind: 'photo' | 'text' }>] => entry[1].kind === 'photo' || entry[1].kind === 'text')
  return (
    <ul aria-label="Drop zones">
      {offered.map(([key, layer]) => {
        const ref = { scene, layer: key }
        return (
          <li key={key} className="border-b hairline py-0.5 last:border-b-0">
            <ZoneSwitch
              name={calledOf(useProject.getState(), ref)}
              number={layer.zone ? numbers.indexOf(layer.zone) + 1 : null}
              onSwitch={(on) => void edit({ edit: on ? 'make_zones' : 'unmake_zones', layers: [ref] })}
            />
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
