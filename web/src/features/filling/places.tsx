import { type KeyboardEvent, useState } from 'react'
import { address, type Filling } from '@/api/client'
import { edit } from '@/project/connection'
import { inOrder } from '@/project/ordering'
import { useProject } from '@/project/project'
import { Button } from '@/ui/button'
import { PlaceTile } from './place-tile'
import type { FilmZone } from './told'
import { Painted } from '@/ui/painted'

const SCENE_PX = 480

/** A place in the film, or a picture that has none. */
type Held = { place: FilmZone } | { picture: string }

const keyOf = (held: Held): string => ('place' in held ? `${held.place.scene} ${held.place.zone}` : held.picture)

/** Puts what is held where it is to be: two places change what is in them, a picture goes into a place. */
function put(held: Held, to: FilmZone): void {
  if ('picture' in held) void edit({ edit: 'fill_zones', scene: to.scene, fills: { [to.zone]: held.picture } })
  else if (keyOf(held) !== keyOf({ place: to })) void edit({ edit: 'swap_zones', first: { scene: held.place.scene, zone: held.place.zone }, second: { scene: to.scene, zone: to.zone } })
}

/** Every scene with the places it has, and the picture in each: one is taken up, and put down on another; by pressing, by dragging or by keys. */
export function Places({ filling, places, onAdd }: { filling: Filling; places: FilmZone[]; onAdd: () => void }) {
  const project = useProject((s) => s.id)
  const marks = useProject((s) => s.marks)
  const scenes = useProject((s) => s.document.scenes)
  const [held, setHeld] = useState<Held | null>(null)
  const taken = held ? keyOf(held) : ''
  const press = (what: Held) => {
    if (held && 'place' in what && taken !== keyOf(what)) {
      put(held, what.place)
      setHeld(null)
    } else setHeld(taken === keyOf(what) ? null : what)
  }
  const keys = (event: KeyboardEvent) => {
    if (event.key === 'Escape') setHeld(null)
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
    if (!step) return
    const tiles = [...event.currentTarget.querySelectorAll<HTMLButtonElement>('button[data-tile]')]
    tiles[tiles.indexOf(document.activeElement as HTMLButtonElement) + step]?.focus()
    event.preventDefault()
  }
  const empty = (place: FilmZone) => {
    void edit({ edit: 'fill_zones', scene: place.scene, fills: { [place.zone]: null } })
    setHeld(null)
  }
  if (!places.length) return <p className="mt-6 text-soft">This template takes no pictures. Go on: its words come next.</p>
  const listed = inOrder(scenes).map(([id], n) => ({ id, number: n + 1, own: places.filter((p) => p.scene === id) }))
  return (
    <div onKeyDown={keys}>
      <p aria-live="polite" className="mt-3 flex min-h-9 flex-wrap items-center gap-3 text-soft">
        {held ? 'Now press the place where it should be.' : 'Press a picture to move it, or drag it.'}
        {held && (
          <Button className="!h-9" onClick={() => setHeld(null)}>
            Leave it where it is
          </Button>
        )}
        {held && 'place' in held && held.place.held && (
          <Button className="!h-9" onClick={() => empty(held.place)}>
            Take it out
          </Button>
        )}
      </p>
      <ul aria-label="Places in the film" className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-3 max-sm:grid-cols-1">
        {listed
          .filter((s) => s.own.length)
          .map(({ id, number, own }) => (
            <li key={id} aria-label={`Scene ${number}`} className="rounded-2xl border hairline p-2 [content-visibility:auto] [contain-intrinsic-size:300px_290px]">
              <Painted src={address.end(project, id, 'settled', marks[id] ?? '', SCENE_PX)} alt="" className="w-full rounded-lg bg-surround" />
              <div className="mt-1.5 grid grid-cols-4 gap-1">
                {own.map((place) => (
                  <PlaceTile
                    key={keyOf({ place })}
                    name={place.name}
                    media={place.held}
                    fault={place.fault}
                    on={taken === keyOf({ place })}
                    aims={held !== null && taken !== keyOf({ place })}
                    onPress={() => (place.held || held ? press({ place }) : onAdd())}
                    onHold={() => place.held && setHeld({ place })}
                    onPut={() => held && press({ place })}
                  />
                ))}
              </div>
            </li>
          ))}
      </ul>
      {filling.unused.length > 0 && (
        <>
          <h2 className="mt-5 font-heading text-[17px] font-semibold">Not in the film</h2>
          <ul aria-label="Pictures that are not in the film" className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(84px,1fr))] gap-1.5">
            {filling.unused.map((picture) => (
              <li key={picture}>
                <PlaceTile name="" media={picture} fault="" on={taken === picture} aims={false} onPress={() => press({ picture })} onHold={() => setHeld({ picture })} onPut={() => undefined} />
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}
