import { control } from '@/project/controls'
import type { Edit, LookPart } from '@/api/client'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { tryEdits } from '@/project/session'
import { Choice, Select } from '@/ui/choice'
import { NumberField } from '@/ui/number'
import { Fields, useLinks, type ValueOwner } from '@/features/links'
import { Parameters, type ParametersProps } from '@/features/parameters'
import type { Values } from '@/project/common'
import { Part } from '@/ui/part'
import { FITS } from './fits'

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
        <NumberField {...control('scene.hold')} value={defaults.hold ?? 0} onSet={(hold) => set({ hold })} />
        <div className="my-1.5">
          <Select
            label="Kind of join"
            value={defaults.join.kind ?? ''}
            choices={catalogue().joins.map((j) => [j.id, j.label] as const)}
            onSet={(kind) => set({ join: { kind, ...catalogue().joins.find((j) => j.id === kind)?.preset } })}
          />
          {join && (
            <Parameters
              parameters={catalogue().join_settings.filter((p) => join.uses.includes(p.id))}
              values={defaults.join as Values}
              onTry={() => undefined}
              onSet={(p) => set({ join: p })}
              onGiveUp={() => undefined}
            />
          )}
        </div>
        {!join?.instant && <NumberField {...control('join.length')} label="Join length" value={defaults.join.length ?? 0} onSet={(length) => set({ join: { length } })} />}
        <NumberField {...control('scene.shutter')} value={defaults.shutter ?? 0} onSet={(shutter) => set({ shutter })} />
      </Part>
      <Part title="Fit">
        <Choice label="Fit" value={defaults.fit ?? 'auto'} choices={FITS} onSet={(fit) => set({ fit })} />
      </Part>
      <Part title="Fields">
        <Fields />
      </Part>
      {look && (
        <p className="px-4 py-3 text-[12px] text-soft">
          Mount, shadow, backdrop and correction come from the project’s look, <b>{looks?.[look]?.name}</b>. What you change here changes the look, and every photo that follows it.
        </p>
      )}
      {catalogue().look_parts.map((part) => (
        <Part key={part.id} title={part.label}>
          <LinkedParameters
            part={part}
            owners={look ? [{ look }] : [{}]}
            values={((look ? looks?.[look] : defaults) as Record<string, Record<string, unknown>> | undefined)?.[part.id] ?? {}}
            onTry={(p) => tryEdits([onLook({ [part.id]: p })])}
            onSet={(p) => void edit(onLook({ [part.id]: p }))}
            onGiveUp={() => tryEdits(null)}
          />
        </Part>
      ))}
    </div>
  )
}

/** A part of the defaults or of the project's look, each value with what it follows. */
function LinkedParameters({ part, owners, ...rest }: Omit<ParametersProps, 'parameters' | 'links'> & { part: LookPart; owners: ValueOwner[] }) {
  return <Parameters parameters={part.parameters} links={useLinks(owners, part.id)} {...rest} />
}
