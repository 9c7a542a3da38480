import type { Edit } from '@/api/client'
import { catalogue, edit, tryEdits, useProject } from '@/project/store'
import { toSeconds, toTicks } from '@/project/times'
import { Choice, Select } from '@/ui/choice'
import { NumberField } from '@/ui/number'
import { Parameters, Part, type Values } from './parts'

export const FITS = [
  ['auto', 'By shape'],
  ['whole', 'Whole picture'],
  ['fill', 'Filled frame'],
  ['free', 'Free'],
] as const

/** The project's defaults. */
export function DefaultsFields() {
  const defaults = useProject((s) => s.document.defaults)
  const looks = useProject((s) => s.document.looks)
  if (!defaults?.join) return null
  const join = catalogue().joins.find((j) => j.id === defaults.join?.kind)
  const set = (partial: Record<string, unknown>) => void edit({ edit: 'set_defaults', ...partial })
  const look = defaults.look
  const onLook = (partial: Record<string, unknown>): Edit => (look ? { edit: 'set_look', id: look, ...partial } : { edit: 'set_defaults', ...partial })
  return (
    <div className="-mx-4">
      <Part title="Time">
        <NumberField label="Hold" value={toSeconds(defaults.hold ?? 0)} minimum={0.1} maximum={60} step={0.1} unit="s" onSet={(v) => set({ hold: toTicks(v) })} />
        <div className="my-1.5">
          <Select label="Kind of join" value={defaults.join.kind ?? ''} choices={catalogue().joins.map((j) => [j.id, j.label] as const)} onSet={(kind) => set({ join: { kind, ...catalogue().joins.find((j) => j.id === kind)?.preset } })} />
          {join && <Parameters parameters={catalogue().join_settings.filter((p) => join.uses.includes(p.id))} values={defaults.join as Values} onTry={() => undefined} onSet={(p) => set({ join: p })} onGiveUp={() => undefined} />}
        </div>
        {!join?.instant && <NumberField label="Join length" value={toSeconds(defaults.join.length ?? 0)} minimum={0.1} maximum={10} step={0.1} unit="s" onSet={(v) => set({ join: { length: toTicks(v) } })} />}
        <NumberField label="Motion blur" help="How long the shutter is open, in degrees of a frame’s time" value={defaults.shutter ?? 0} minimum={0} maximum={360} step={5} unit="°" onSet={(shutter) => set({ shutter })} />
      </Part>
      <Part title="Fit">
        <Choice label="Fit" value={defaults.fit ?? 'auto'} choices={FITS} onSet={(fit) => set({ fit })} />
      </Part>
      {look && (
        <p className="px-4 py-3 text-[12px] text-soft">
          Mount, shadow, backdrop and correction come from the project’s look, <b>{looks?.[look]?.name}</b>. What you change here changes the look, and every photo that follows it.
        </p>
      )}
      {catalogue().look_parts.map((part) => (
        <Part key={part.id} title={part.label}>
          <Parameters parameters={part.parameters} values={((look ? looks?.[look] : defaults) as Record<string, Record<string, unknown>> | undefined)?.[part.id] ?? {}} onTry={(p) => tryEdits([onLook({ [part.id]: p })])} onSet={(p) => void edit(onLook({ [part.id]: p }))} onGiveUp={() => tryEdits(null)} />
        </Part>
      ))}
    </div>
  )
}
