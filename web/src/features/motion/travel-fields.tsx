import { ChevronDown, ChevronUp, Plus, X } from 'lucide-react'
import type { Edit, Scene } from '@/api/client'
import type { Values } from '@/project/common'
import { control } from '@/project/controls'
import { calledOf } from '@/project/kinds'
import { inOrder } from '@/project/ordering'
import { edit } from '@/project/connection'
import { layersOf, newId, useProject, useSceneAlone } from '@/project/project'
import { reachedLayers, tryEdits, useSession } from '@/project/session'
import { Button, IconButton } from '@/ui/button'
import { NumberField } from '@/ui/number'

/** Stops of the camera in a scene. */
export function TravelFields({ id, scene }: { id: string; scene: Scene }) {
  const chosen = useSession((s) => s.chosenLayers)
  const stops = inOrder(scene.travel?.stops ?? {})
  const layers = useProject((s) => layersOf(s.document, id))
  const document = useSceneAlone(id)
  const applied = useProject((s) => s.applied)
  const name = (layer: string | null | undefined) => (layer && calledOf({ document, applied }, { scene: id, layer })) || 'The whole scene'
  const wanted = (
    chosen.length
      ? chosen
      : inOrder(layers)
          .filter(([, l]) => l.kind === 'photo')
          .map(([layer]) => ({ scene: id, layer }))
  ).filter((r) => r.scene === id)
  const add = () => void edit({ edit: 'add_stops', scene: id, stops: wanted.map((r) => ({ id: newId(), layer: r.layer })) })
  const set = (stop: string, partial: Values): Edit => ({ edit: 'set_stops', scene: id, stops: [stop], stop: partial })
  if (!stops.length)
    return (
      <Button size="small" className="w-full" disabled={wanted.length < 2} title="The camera goes from photo to photo and stays a while at each" onClick={add}>
        Travel over {chosen.length > 1 ? 'the chosen' : 'the'} {wanted.length} photos
      </Button>
    )
  return (
    <div className="my-1.5">
      <p className="mb-1 flex items-center justify-between">
        <span className="font-semibold">Travel</span>
        <span className="flex gap-3 text-[12px]">
          <Button
            kind="link"
            disabled={!chosen.length && !reachedLayers().length}
            onClick={() => (chosen.length ? add() : void edit({ edit: 'add_stops', scene: id, stops: [{ id: newId(), fills: 1 }] }))}
          >
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
              <IconButton size="least" label={`Stop ${index + 1} earlier`} disabled={index === 0} onClick={() => void edit({ edit: 'move_stop', scene: id, stop: key, before: stops[index - 1]?.[0] })}>
                <ChevronUp size={12} />
              </IconButton>
              <IconButton
                size="least"
                label={`Stop ${index + 1} later`}
                disabled={index === stops.length - 1}
                onClick={() => void edit({ edit: 'move_stop', scene: id, stop: key, before: stops[index + 2]?.[0] ?? null })}
              >
                <ChevronDown size={12} />
              </IconButton>
              <IconButton size="least" label={`Remove stop ${index + 1}`} onClick={() => void edit({ edit: 'remove_stops', scene: id, stops: [key] })}>
                <X size={12} />
              </IconButton>
            </span>
            <span className="flex items-center gap-1.5 pl-5 text-[12px] text-soft">
              stays
              <NumberField
                {...control('stop.stay')}
                compactLight
                label={`Stay at stop ${index + 1}`}
                value={stop.stay ?? 0}
                slider={false}
                onTry={(stay) => tryEdits([set(key, { stay })])}
                onSet={(stay) => void edit(set(key, { stay }))}
                onGiveUp={() => tryEdits(null)}
              />
              fills
              <NumberField
                {...control('stop.fills')}
                compactLight
                label={`How much of the frame stop ${index + 1} fills`}
                value={stop.fills ?? 0.86}
                slider={false}
                onTry={(v) => tryEdits([set(key, { fills: v })])}
                onSet={(v) => void edit(set(key, { fills: v }))}
                onGiveUp={() => tryEdits(null)}
              />
            </span>
          </li>
        ))}
      </ol>
      <NumberField
        {...control('travel.draws_back')}
        value={scene.travel?.draws_back ?? 0}
        onTry={(v) => tryEdits([{ edit: 'set_stops', scene: id, draws_back: v }])}
        onSet={(v) => void edit({ edit: 'set_stops', scene: id, draws_back: v })}
        onGiveUp={() => tryEdits(null)}
      />
    </div>
  )
}
