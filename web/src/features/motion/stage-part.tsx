import { control } from '@/project/controls'
import { calledOf } from '@/project/kinds'
import { ChevronDown, ChevronUp, Plus, X } from 'lucide-react'
import type { Edit, Scene } from '@/api/client'
import { common, commonFields, Parameters, Part, type Values } from '@/features/details/parts'
import { useApplied } from '@/project/applied'
import { closeDialog, openDialog, useOpenDialog } from '@/project/dialogs'
import { inOrder } from '@/project/ordering'
import { useLinks } from '@/features/links'
import { catalogue, edit, layersOf, newId, reachedLayers, tryEdits, useProject } from '@/project/store'
import { Button, IconButton } from '@/ui/button'
import { NumberField } from '@/ui/number'
import { useMoveName } from './motion-part'
import { MovePicker } from './move-picker'
import { useNumbers } from './numbers'

const part = (id: string) => catalogue().stage_parts.find((p) => p.id === id)

/** Camera, travel, motion blur and light of scenes. */
export function StagePart({ ids, scenes }: { ids: string[]; scenes: Scene[] }) {
  const owners = ids.map((scene) => ({ scene, layer: null }))
  const camera = useNumbers(owners, 'camera')
  const light = useNumbers(owners, 'light')
  const links = { camera: useLinks(owners, 'camera'), light: useLinks(owners, 'light') }
  const picking = useOpenDialog('camera-move')
  const moveName = useMoveName()
  const target = useProject((s) => s.target)
  const applied = useApplied()
  const on = (partial: Values): Edit => ({ edit: 'set_scenes', ids, ...partial })
  const move = common(scenes.map((s) => s.camera_move?.move ?? null))
  const moved = scenes.some((s) => s.camera_move)
  const lit = scenes.some((s) => s.light)
  const still = scenes.every((s) => JSON.stringify({ ...s.camera }) === JSON.stringify(plainCamera()) && !s.camera_move && !s.travel && !Object.keys(s.animation ?? {}).length)
  return (
    <>
      <Part
        title="Camera"
        closed={still}
        source={
          <button type="button" className="text-tarn hover:underline" onClick={() => useProject.setState({ looking: 'plan' })}>
            see the plan
          </button>
        }
      >
        <div className="mb-1 flex h-[27px] items-center gap-2">
          <span className="w-[60px] shrink-0">Move</span>
          <button type="button" onClick={() => openDialog('camera-move')} className={`h-6 min-w-0 flex-1 truncate rounded-full border px-2.5 text-left text-[12.5px] ${moved ? 'border-transparent bg-ink text-on-ink' : 'hairline text-soft hover:bg-deep'}`}>
            {move ? moveName(move) : moved ? 'several' : 'none, choose…'}
          </button>
          {moved && (
            <IconButton label="Take the camera’s move away" className="!h-6 !w-6" onClick={() => void edit({ edit: 'use_move', to: owners, slot: 'move', move: null })}>
              <X size={13} />
            </IconButton>
          )}
        </div>
        {moved && <NumberField {...control('move.strength')} value={common(scenes.map((s) => s.camera_move?.strength ?? 1))} onTry={(strength) => tryEdits([{ edit: 'set_move_use', to: owners, use: { strength } }])} onSet={(strength) => void edit({ edit: 'set_move_use', to: owners, use: { strength } })} onGiveUp={() => tryEdits(null)} />}
        {ids.length === 1 && ids[0] && scenes[0] && <TravelFields id={ids[0]} scene={scenes[0]} />}
        <div className="my-1.5 flex flex-wrap gap-1.5">
          <Button className={`!h-7 !px-2.5 ${target === 'camera' ? '!bg-ink !text-on-ink' : ''}`} aria-pressed={target === 'camera'} title="Drag the frame on the easel: inside to track, corners to dolly, ring to roll" onClick={() => useProject.setState({ target: target === 'camera' ? 'layer' : 'camera', looking: 'live', chosenLayers: [] })}>
            Move it on the easel
          </Button>
          {!still && (
            <Button className="!h-7 !px-2.5" onClick={() => void edit(on({ camera: null }))}>
              Back home
            </Button>
          )}
        </div>
        <Parameters parameters={part('camera')?.parameters ?? []} values={commonFields(scenes.map((s) => (s.camera ?? {}) as Values))} numbers={camera} links={links.camera} onTry={(p) => tryEdits([on({ camera: p })])} onSet={(p) => void edit(on({ camera: p }))} onGiveUp={() => tryEdits(null)} />
        <NumberField {...control('scene.shutter')} value={common(ids.map((id) => applied(id).shutter ?? 0))} onTry={(v) => tryEdits([on({ shutter: v })])} onSet={(v) => void edit(on({ shutter: v }))} onGiveUp={() => tryEdits(null)} />
      </Part>
      <Part
        title="Light"
        closed={!lit}
        source={
          lit ? (
            <button type="button" className="text-tarn hover:underline" onClick={() => void edit(on({ light: null }))}>
              switch off
            </button>
          ) : undefined
        }
      >
        {lit ? (
          <Parameters parameters={part('light')?.parameters ?? []} values={commonFields(scenes.map((s) => (s.light ?? {}) as Values))} numbers={light} links={links.light} onTry={(p) => tryEdits([on({ light: p })])} onSet={(p) => void edit(on({ light: p }))} onGiveUp={() => tryEdits(null)} />
        ) : (
          <Button className="!h-7" title="A lamp before the scene: it shades what turns away, and throws every shadow" onClick={() => void edit(on({ light: {} }))}>
            Switch a lamp on
          </Button>
        )}
      </Part>
      {picking && <MovePicker slot="move" camera to={owners} onClose={closeDialog} />}
    </>
  )
}

const plainCamera = () => Object.fromEntries((part('camera')?.parameters ?? []).map((p) => [p.id, p.default]))

/** Stops of the camera in a scene. */
function TravelFields({ id, scene }: { id: string; scene: Scene }) {
  const chosen = useProject((s) => s.chosenLayers)
  const stops = inOrder(scene.travel?.stops ?? {})
  const layers = useProject((s) => layersOf(s.document, id))
  const document = useProject((s) => s.document)
  const name = (layer: string | null | undefined) => (layer && calledOf(document, layers[layer])) || 'The whole scene'
  const wanted = (chosen.length ? chosen : inOrder(layers).filter(([, l]) => l.kind === 'photo').map(([layer]) => ({ scene: id, layer }))).filter((r) => r.scene === id)
  const add = () => void edit({ edit: 'add_stops', scene: id, stops: wanted.map((r) => ({ id: newId(), layer: r.layer })) })
  const set = (stop: string, partial: Values): Edit => ({ edit: 'set_stops', scene: id, stops: [stop], stop: partial })
  if (!stops.length)
    return (
      <Button className="!h-7 w-full" disabled={wanted.length < 2} title="The camera goes from photo to photo and stays a while at each" onClick={add}>
        Travel over {chosen.length > 1 ? 'the chosen' : 'the'} {wanted.length} photos
      </Button>
    )
  return (
    <div className="my-1.5">
      <p className="mb-1 flex items-center justify-between">
        <span className="font-semibold">Travel</span>
        <span className="flex gap-3 text-[12px]">
          <Button kind="link" disabled={!chosen.length && !reachedLayers().length} onClick={() => (chosen.length ? add() : void edit({ edit: 'add_stops', scene: id, stops: [{ id: newId(), fills: 1 }] }))}>
            <Plus size={12} /> {chosen.length ? 'stop here' : 'whole scene'}
          </Button>
          <Button kind="link" onClick={() => void edit({ edit: 'remove_stops', scene: id, stops: stops.map(([k]) => k) })}>
            end it
          </Button>
        </span>
      </p>
      <ol aria-label="Stops of the camera" className="space-y-0.5">
        {stops.map(([key, stop], index) => (
          <li key={key} className="flex flex-wrap items-center gap-x-1">
            <span className="flex w-full items-center gap-1.5">
              <span className="w-4 font-mono text-[11px] text-soft">{index + 1}</span>
              <span className="min-w-0 flex-1 truncate">{name(stop.layer)}</span>
              <IconButton label={`Stop ${index + 1} earlier`} disabled={index === 0} className="!h-5 !w-5" onClick={() => void edit({ edit: 'move_stop', scene: id, stop: key, before: stops[index - 1]?.[0] })}>
                <ChevronUp size={12} />
              </IconButton>
              <IconButton label={`Stop ${index + 1} later`} disabled={index === stops.length - 1} className="!h-5 !w-5" onClick={() => void edit({ edit: 'move_stop', scene: id, stop: key, before: stops[index + 2]?.[0] ?? null })}>
                <ChevronDown size={12} />
              </IconButton>
              <IconButton label={`Remove stop ${index + 1}`} className="!h-5 !w-5" onClick={() => void edit({ edit: 'remove_stops', scene: id, stops: [key] })}>
                <X size={12} />
              </IconButton>
            </span>
            <span className="flex items-center gap-1.5 pl-5 text-[12px] text-soft">
              stays
              <NumberField {...control('stop.stay')} compactLight label={`Stay at stop ${index + 1}`} value={stop.stay ?? 0} slider={false} onTry={(stay) => tryEdits([set(key, { stay })])} onSet={(stay) => void edit(set(key, { stay }))} onGiveUp={() => tryEdits(null)} />
              fills
              <NumberField {...control('stop.fills')} compactLight label={`How much of the frame stop ${index + 1} fills`} value={stop.fills ?? 0.86} slider={false} onTry={(v) => tryEdits([set(key, { fills: v })])} onSet={(v) => void edit(set(key, { fills: v }))} onGiveUp={() => tryEdits(null)} />
            </span>
          </li>
        ))}
      </ol>
      <NumberField {...control('travel.draws_back')} value={scene.travel?.draws_back ?? 0} onTry={(v) => tryEdits([{ edit: 'set_stops', scene: id, draws_back: v }])} onSet={(v) => void edit({ edit: 'set_stops', scene: id, draws_back: v })} onGiveUp={() => tryEdits(null)} />
    </div>
  )
}
