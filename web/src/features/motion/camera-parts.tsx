import { useLinks } from '@/features/links'
import { Parameters, useNumbers } from '@/features/parameters'
import { useApplied } from '@/project/applied'
import type { PartProps } from '@/project/chosen'
import { common, commonFields, type Values } from '@/project/common'
import { control } from '@/project/controls'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { lookAt, tryEdits, useSession } from '@/project/session'
import { Button } from '@/ui/button'
import { NumberField } from '@/ui/number'
import { Part, PartAction } from '@/ui/part'
import { MovePill } from './move-pill'
import { useMoveName } from './uses'
import { TravelFields } from './travel-fields'

const declared = (id: string) => catalogue().stage_parts.find((p) => p.id === id)?.parameters ?? []

const ownersOf = (ids: string[]) => ids.map((scene) => ({ scene, layer: null }))

/** The camera of scenes: its move, its travel, its numbers, motion blur. */
export function CameraPart({ chosen: { ids, scenes, onScenes } }: PartProps) {
  const owners = ownersOf(ids)
  const numbers = useNumbers(owners, 'camera')
  const links = useLinks(owners, 'camera')
  const moveName = useMoveName()
  const target = useSession((s) => s.target)
  const applied = useApplied()
  const move = common(scenes.map((s) => s.camera_move?.move ?? null))
  const moved = scenes.some((s) => s.camera_move)
  const strength = (v: number) => ({ edit: 'set_move_use', to: owners, use: { strength: v } }) as const
  return (
    <Part name="camera" title="Camera" source={<PartAction onPress={() => lookAt('plan')}>see the plan</PartAction>}>
      <MovePill
        label="Move"
        slot="camera-move"
        move={move && moveName(move)}
        several={moved}
        takeAway="Take the camera’s move away"
        onTakeAway={() => void edit({ edit: 'use_move', to: owners, slot: 'move', move: null })}
      />
      {moved && (
        <NumberField
          {...control('move.strength')}
          value={common(scenes.map((s) => s.camera_move?.strength ?? 1))}
          onTry={(v) => tryEdits([strength(v)])}
          onSet={(v) => void edit(strength(v))}
          onGiveUp={() => tryEdits(null)}
        />
      )}
      {ids.length === 1 && ids[0] && scenes[0] && <TravelFields id={ids[0]} scene={scenes[0]} />}
      <div className="my-1.5 flex flex-wrap gap-1.5">
        <Button
          size="small"
          className={target === 'camera' ? '!bg-ink !text-on-ink' : ''}
          aria-pressed={target === 'camera'}
          title="Drag the frame on the easel: inside to track, corners to dolly, ring to roll"
          onClick={() => useSession.setState({ target: target === 'camera' ? 'layer' : 'camera', looking: 'live', chosenLayers: [] })}
        >
          Move it on the easel
        </Button>
        {ids.some((id) => applied(id).differing?.includes('camera')) && (
          <Button size="small" onClick={() => void edit(onScenes({ camera: null }))}>
            Back home
          </Button>
        )}
      </div>
      <Parameters
        parameters={declared('camera')}
        values={commonFields(scenes.map((s) => (s.camera ?? {}) as Values))}
        numbers={numbers}
        links={links}
        onTry={(p) => tryEdits([onScenes({ camera: p })])}
        onSet={(p) => void edit(onScenes({ camera: p }))}
        onGiveUp={() => tryEdits(null)}
      />
      <NumberField
        {...control('scene.shutter')}
        value={common(ids.map((id) => applied(id).shutter ?? 0))}
        onTry={(v) => tryEdits([onScenes({ shutter: v })])}
        onSet={(v) => void edit(onScenes({ shutter: v }))}
        onGiveUp={() => tryEdits(null)}
      />
    </Part>
  )
}

/** The lamp of scenes, or that there is none. */
export function LightPart({ chosen: { ids, scenes, onScenes } }: PartProps) {
  const owners = ownersOf(ids)
  const numbers = useNumbers(owners, 'light')
  const links = useLinks(owners, 'light')
  const lit = scenes.some((s) => s.light)
  return (
    <Part name="light" title="Light" source={lit ? <PartAction onPress={() => void edit(onScenes({ light: null }))}>switch off</PartAction> : undefined}>
      {lit ? (
        <Parameters
          parameters={declared('light')}
          values={commonFields(scenes.map((s) => (s.light ?? {}) as Values))}
          numbers={numbers}
          links={links}
          onTry={(p) => tryEdits([onScenes({ light: p })])}
          onSet={(p) => void edit(onScenes({ light: p }))}
          onGiveUp={() => tryEdits(null)}
        />
      ) : (
        <Button size="small" title="A lamp before the scene: it shades what turns away, and throws every shadow" onClick={() => void edit(onScenes({ light: {} }))}>
          Switch a lamp on
        </Button>
      )}
    </Part>
  )
}
