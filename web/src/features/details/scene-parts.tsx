import { LayoutGrid } from 'lucide-react'
import { useLinks } from '@/features/links'
import { Parameters, useNumbers } from '@/features/parameters'
import { useApplied } from '@/project/applied'
import { common, commonFields, type Values } from '@/project/common'
import { control } from '@/project/controls'
import { openDialog } from '@/project/dialogs'
import { edit } from '@/project/connection'
import { tryEdits } from '@/project/session'
import { Button } from '@/ui/button'
import { NumberField } from '@/ui/number'
import { Part, Source } from '@/ui/part'
import type { PartProps } from '@/project/chosen'
import { declared } from './declared'
import { Fades } from './fades'

export function ScenePart({ chosen: { ids, scenes, onScenes } }: PartProps) {
  const applied = useApplied()
  const several = scenes.some((s) => Object.values(s.layers ?? {}).filter((l) => l.kind === 'photo').length > 1)
  return (
    <Part name="scene" title="Scene" source={<Source own={scenes.some((s) => s.hold != null)} onBack={() => void edit(onScenes({ hold: null }))} />}>
      <NumberField {...control('scene.hold')} value={common(ids.map((id) => applied(id).hold ?? 0))} onSet={(v) => void edit(onScenes({ hold: v }))} />
      <NumberField {...control('scene.speed')} value={common(scenes.map((s) => s.speed ?? 1))} onSet={(v) => void edit(onScenes({ speed: v }))} />
      <Fades scenes={scenes} onScenes={onScenes} />
      {several && (
        <Button size="small" className="mt-1.5 w-full" onClick={() => openDialog('layout')}>
          <LayoutGrid size={14} /> Lay out the photos…
        </Button>
      )}
    </Part>
  )
}

export function BackdropPart({ chosen: { ids, scenes, onScenes } }: PartProps) {
  const applied = useApplied()
  const owners = ids.map((id) => ({ scene: id, layer: null }))
  const numbers = useNumbers(owners, 'backdrop')
  const links = useLinks(owners, 'backdrop')
  return (
    <Part name="backdrop" title={declared('backdrop')?.label ?? ''} source={<Source own={scenes.some((s) => s.backdrop != null)} onBack={() => void edit(onScenes({ backdrop: null }))} />}>
      <Parameters
        parameters={declared('backdrop')?.parameters ?? []}
        values={commonFields(ids.map((id) => (applied(id).backdrop ?? {}) as Values))}
        numbers={numbers}
        links={links}
        onTry={(p) => tryEdits([onScenes({ backdrop: p })])}
        onSet={(p) => void edit(onScenes({ backdrop: p }))}
        onGiveUp={() => tryEdits(null)}
      />
    </Part>
  )
}
