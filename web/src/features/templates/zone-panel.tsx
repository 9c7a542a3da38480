import type { Template, Zone } from '@/api/client'
import { edit } from '@/project/connection'
import { calledOf } from '@/project/kinds'
import { inOrder } from '@/project/ordering'
import { layersOf, useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { Button } from '@/ui/button'
import { Select } from '@/ui/choice'
import { NumberField } from '@/ui/number'
import { Part, PartAction } from '@/ui/part'
import { Row, Tick } from '@/ui/row'
import { Named } from './named'
import { control } from '@/project/controls'

const FITTINGS = [
  ['fill', 'Fills the zone'],
  ['whole', 'Whole in it'],
  ['shape', 'Zone takes its shape'],
] as const

const TAKES = [
  ['picture', 'Picture'],
  ['clip', 'Clip'],
  ['cutout', 'Cut-out'],
  ['logo', 'Logo'],
] as const

const EMPTY = [
  ['placeholder', 'Its number'],
  ['nothing', 'Nothing'],
] as const

/** What is chosen on the picture, as a drop zone: what it is called, takes and asks for; or the way to make it one. */
export function ZonePanel({ id, template, scene }: { id: string; template: Template; scene: string }) {
  const layers = useProject((s) => layersOf(s.document, scene))
  const key = useSession((s) => s.chosenLayers.find((l) => l.scene === scene)?.layer)
  const layer = key ? layers[key] : undefined
  if (!key || (layer?.kind !== 'photo' && layer?.kind !== 'text'))
    return (
      <Part title="Drop zone">
        <p className="text-[12.5px] text-soft">Press a picture or text in the frame. What carries a number is a drop zone: others put their own there.</p>
      </Part>
    )
  const ref = { scene, layer: key }
  const zone = layer.zone ? template.zones?.[layer.zone] : undefined
  if (!layer.zone || !zone)
    return (
      <Part title="Drop zone">
        <p className="mb-2 text-[12.5px] text-soft">“{calledOf(useProject.getState(), ref)}” is no drop zone: it stays as it is in every film.</p>
        <Button size="small" className="w-full" onClick={() => void edit({ edit: 'make_zones', layers: [ref] })}>
          Make it a drop zone
        </Button>
      </Part>
    )
  const number = inOrder(template.zones).findIndex(([k]) => k === layer.zone) + 1
  return (
    <Part title={`Drop zone ${number}`} source={<PartAction onPress={() => void edit({ edit: 'unmake_zones', layers: [ref] })}>no drop zone</PartAction>}>
      <ZoneFields key={layer.zone} id={id} zone={layer.zone} record={zone} />
    </Part>
  )
}

/** All that is said of a zone. */
export function ZoneFields({ id, zone, record }: { id: string; zone: string; record: Zone }) {
  const set = (partial: Partial<Zone>) => void edit({ edit: 'set_zone', template: id, zone, ...partial })
  const pictured = record.takes !== 'text' && record.takes !== 'song'
  return (
    <>
      <Named label="Zone’s name" value={record.name ?? ''} onSet={(name) => set({ name })} />
      {pictured && (
        <>
          <Row label="Takes">
            <Select label="What it takes" size="small" className="min-w-0 flex-1" value={record.takes ?? 'picture'} choices={TAKES} onSet={(takes) => set({ takes: takes as Zone['takes'] })} />
          </Row>
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
          <Row label="While empty">
            <Select
              label="What is shown while it is empty"
              size="small"
              className="min-w-0 flex-1"
              value={record.empty ?? 'placeholder'}
              choices={EMPTY}
              onSet={(empty) => set({ empty: empty as Zone['empty'] })}
            />
          </Row>
          <NumberField {...control('zone.least')} value={record.least ?? 0} onSet={(least) => set({ least })} />
        </>
      )}
      {record.takes === 'text' && <NumberField {...control('zone.most')} value={record.most ?? 0} onSet={(most) => set({ most })} />}
      <Tick label="Has to be filled" value={record.required ?? true} onSet={(required) => set({ required })} />
      <Named long label="Hint" value={record.help ?? ''} onSet={(help) => set({ help })} />
    </>
  )
}
