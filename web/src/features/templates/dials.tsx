import { useState } from 'react'
import type { Dial, EditOf, Parameter, Template } from '@/api/client'
import { Parameters } from '@/features/parameters'
import { catalogue } from '@/project/catalogue'
import { commonFields, type Values } from '@/project/common'
import { edit } from '@/project/connection'
import { inOrder } from '@/project/ordering'
import { newId, useProject } from '@/project/project'
import { tryEdits } from '@/project/session'

type Turned = EditOf<'turn_dials'>['dials']

/** A dial as the controls know parameters. */
function parameterOf(id: string, dial: Dial): Parameter {
  const families = dial.kind === 'face' ? catalogue().families.map((f): [string, string] => [f.id, f.label]) : []
  const kind = { amount: 'number', colour: 'colour', choice: 'choice', switch: 'switch', text: 'text', face: 'choice', seed: 'number' }[dial.kind ?? 'amount']
  const choices = dial.kind === 'face' ? families : (dial.choices ?? []).map((c): [string, string] => [c.value, c.label])
  const { minimum = 0, maximum = 1, step = 0.01, unit = '', scale = 1, help = '' } = dial
  return { id, label: dial.name, kind, default: dial.default, help, minimum, maximum, step, unit, scale, choices, when: null, animated: false, factor: false, usual: null, whole: dial.kind === 'seed' }
}

/** The dials of a template, as they stand for some scenes that it makes. */
export function Dials({ ids, template }: { ids: string[]; template: Template }) {
  const scenes = useProject((s) => s.document.scenes)
  const [alone, setAlone] = useState(false)
  const uses = new Set(ids.map((id) => scenes?.[id]?.template?.use))
  const others = Object.entries(scenes ?? {}).some(([id, s]) => s.template && uses.has(s.template.use) && !ids.includes(id))
  const dials = inOrder(template.dials)
  const values = commonFields(ids.map((id) => Object.fromEntries(dials.map(([k, d]) => [k, scenes?.[id]?.template?.dials?.[k] ?? d.default]))))
  const turned = (partial: Values): EditOf<'turn_dials'> => ({ edit: 'turn_dials', scenes: ids, dials: partial as Turned, ...(alone && others ? { apart: newId() } : {}) })
  const groups = [...new Set(dials.map(([, d]) => d.group ?? ''))]
  return (
    <>
      {groups.map((group) => (
        <fieldset key={group} className="mt-2">
          <legend className={group ? 'mb-0.5 text-[12px] font-semibold' : 'sr-only'}>{group || 'Dials'}</legend>
          <Parameters
            parameters={dials.filter(([, d]) => (d.group ?? '') === group).map(([id, d]) => parameterOf(id, d))}
            values={values}
            onTry={(p) => tryEdits([turned(p)])}
            onSet={(p) => void edit(turned(p))}
            onGiveUp={() => tryEdits(null)}
          />
        </fieldset>
      ))}
      {others && (
        <label className="mt-2 flex items-center gap-1.5 text-[12.5px]">
          <input type="checkbox" checked={alone} onChange={(e) => setAlone(e.target.checked)} /> Turn them for {ids.length === 1 ? 'this scene' : 'these scenes'} alone
        </label>
      )}
    </>
  )
}
