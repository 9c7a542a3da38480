import { useState } from 'react'
import { client, type SceneRule, settled, type Template } from '@/api/client'
import { Named } from './named'
import { forgetLibrary } from './treating'
import { useApplied } from '@/project/applied'
import { edit } from '@/project/connection'
import { control } from '@/project/controls'
import { useProject } from '@/project/project'
import { Button } from '@/ui/button'
import { Choice, Select } from '@/ui/choice'
import { say } from '@/ui/notices'
import { NumberField } from '@/ui/number'
import { Part, PartAction } from '@/ui/part'
import { Row, Tick } from '@/ui/row'
import { inOrder } from '@/project/ordering'
import { ZoneFields } from './zone-panel'

export const KINDS = [
  ['treatment', 'Treatment'],
  ['opening', 'Opening'],
  ['body', 'Body'],
  ['closing', 'Closing'],
  ['film', 'Whole film'],
] as const

export const MOODS = [
  ['calm', 'Calm'],
  ['warm', 'Warm'],
  ['lively', 'Lively'],
  ['grand', 'Grand'],
] as const

/** What the library says of it. */
export function TemplateFields({ id, template }: { id: string; template: Template }) {
  const set = (partial: Partial<Template>) => void edit({ edit: 'set_template', id, ...(partial as object) })
  const moods = template.moods ?? []
  const repeats = Object.values(template.scenes ?? {}).filter((r) => r.repeats).length
  return (
    <Part title="Template">
      <Named label="Name" value={template.name ?? ''} onSet={(name) => set({ name })} />
      <Row label="Kind">
        <Select label="Kind of template" size="small" className="min-w-0 flex-1" value={template.kind ?? 'treatment'} choices={KINDS} onSet={(kind) => set({ kind: kind as Template['kind'] })} />
      </Row>
      <Named long label="About it" value={template.about ?? ''} onSet={(about) => set({ about })} />
      <Named long label="Other words" value={template.words ?? ''} onSet={(words) => set({ words })} />
      <fieldset className="my-1">
        <legend className="mb-0.5 text-[12px] text-soft">Mood</legend>
        <span className="grid grid-cols-2">
          {MOODS.map(([mood, label]) => (
            <Tick key={mood} label={label} value={moods.includes(mood)} onSet={(on) => set({ moods: on ? [...moods, mood] : moods.filter((m) => m !== mood) })} />
          ))}
        </span>
      </fieldset>
      {repeats > 1 && (
        <Row label="Variations" stacked>
          <Choice
            label="Variations"
            value={template.varies ?? 'turn'}
            choices={[
              ['turn', 'In turn'],
              ['seed', 'By chance'],
            ]}
            onSet={(varies) => set({ varies })}
          />
        </Row>
      )}
    </Part>
  )
}

/** What may become of the scene that is seen. */
export function Rules({ id, template, scene }: { id: string; template: Template; scene: string }) {
  const part = useProject((s) => s.document.scenes?.[scene]?.template?.part ?? '')
  const rule: Partial<SceneRule> = template.scenes?.[part] ?? {}
  const hold = control('scene.hold')
  const applied = useApplied()(scene)
  const now = applied.hold ?? 0
  const follows = useProject((s) => s.document.scenes?.[scene]?.backdrop_zone ?? '')
  const pictured = inOrder(template.zones).filter(([, z]) => z.takes !== 'text' && z.takes !== 'song')
  const backed = ['blur', 'picture'].includes(String(applied.backdrop?.kind))
  const set = (partial: Partial<SceneRule>) => void edit({ edit: 'set_template', id, scenes: { [part]: partial } })
  return (
    <Part title="Rules of the scene">
      <Tick label="Repeats while there are pictures" value={rule.repeats ?? false} onSet={(repeats) => set({ repeats })} />
      <Tick label="Left out where pictures are too few" value={rule.optional ?? false} onSet={(optional) => set({ optional })} />
      <Tick label="Stands no less than…" value={rule.least != null} onSet={(on) => set({ least: on ? now : null })} />
      {rule.least != null && <NumberField {...hold} label="At least" value={rule.least} onSet={(least) => set({ least })} />}
      <Tick label="Stands no more than…" value={rule.most != null} onSet={(on) => set({ most: on ? now : null })} />
      {backed && pictured.length > 0 && (
        <Row label="Backdrop">
          <Select
            label="What the backdrop shows"
            size="small"
            className="min-w-0 flex-1"
            value={follows}
            choices={[['', 'Its own'], ...pictured.map(([k, z]): [string, string] => [k, `Zone: ${z.name || k}`])]}
            onSet={(zone) => void edit({ edit: 'set_backdrop_zone', scene, zone: zone || null })}
          />
        </Row>
      )}
      {rule.most != null && <NumberField {...hold} label="At most" value={rule.most} onSet={(most) => set({ most })} />}
    </Part>
  )
}

/** Songs of the film, each a drop zone or not. */
export function SongZones({ id, template }: { id: string; template: Template }) {
  const songs = useProject((s) => s.document.songs)
  const sounds = useProject((s) => s.document.sounds)
  const listed = inOrder(songs)
  if (!listed.length) return null
  return (
    <Part title="Songs">
      {listed.map(([song, record]) => {
        const zone = record.zone ? template.zones?.[record.zone.zone] : undefined
        const name = sounds?.[record.sound]?.name ?? 'Song'
        return (
          <div key={song}>
            <Tick label={`${name} is a drop zone`} value={zone !== undefined} onSet={(on) => void edit({ edit: on ? 'make_song_zone' : 'unmake_song_zone', template: id, song })} />
            {zone && record.zone && (
              <div className="pl-5">
                <ZoneFields id={id} zone={record.zone.zone} record={zone} />
              </div>
            )}
          </div>
        )
      })}
    </Part>
  )
}

/** Into the library, as the next version of what it became before. */
export function SaveIt({ id }: { id: string }) {
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
    <Button kind="strong" size="small" disabled={busy} onClick={() => void save()}>
      {busy ? 'Saving…' : 'Save to the library'}
    </Button>
  )
}

/** A template is given up: its scenes stay as they are. */
export const Remove = ({ id }: { id: string }) => <PartAction onPress={() => void edit({ edit: 'remove_template', id })}>give it up</PartAction>
