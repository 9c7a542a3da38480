import { useEffect, useRef, useState } from 'react'
import { address, type Edit } from '@/api/client'
import { useGeometry, useScreen } from '@/playback/screen'
import { inOrder } from '@/project/ordering'
import { edit } from '@/project/connection'
import { layersOf, pictureMark, useProject } from '@/project/project'
import { tryEdits, useSession } from '@/project/session'
import { useArea } from '@/interaction/area'
import { type Gesture, Outline } from './outline'
import { type Box, placedAround, polygonArea } from '@/interaction/placing'

/** The picture with its opening and closing view on it, and the frames they give beside it. */
export function Views() {
  const { ref, size, origin } = useArea()
  const project = useProject((s) => s.id)
  const frame = useProject((s) => s.document.frame)
  const aspect = (frame?.width ?? 16) / (frame?.height ?? 9)
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? null)
  // The chosen photo, or the scene's lowest.
  const chosenLayers = useSession((s) => s.chosenLayers)
  const layer = useProject((s) => {
    if (!scene) return null
    const layers = layersOf(s.document, scene)
    const chosen = chosenLayers.find((r) => r.scene === scene && layers[r.layer]?.kind === 'photo')
    return chosen?.layer ?? inOrder(layers).find(([, l]) => l.kind === 'photo')?.[0] ?? null
  })
  const media = useProject((s) => {
    const photo = scene && layer ? layersOf(s.document, scene)[layer] : undefined
    return photo?.kind === 'photo' ? photo.media : null
  })
  const [natural, setNatural] = useState<{ media: string; shape: number } | null>(null)
  const picture = useProject((s) => (media ? s.document.media?.[media] : undefined))
  const geometry = useGeometry((s) => s.geometry)
  const shown = useGeometry((s) => s.scene)
  const views = shown === scene ? geometry.views.find((v) => v.layer === layer) : undefined
  const [front, setFront] = useState<'opening' | 'closing'>('opening')
  // Two frames stand at the right; the picture takes the rest, with room for views that reach beyond it.
  const side = Math.min(size.width * 0.32, ((size.height - 70) / 2) * aspect)
  const room = Math.max(1, size.width - side - 34)
  const dragging = useSession((s) => s.tried !== null)
  const still = useRef<Box | null>(null)
  // The picture stays where it is while a view is dragged, even far beyond it.
  const fresh = placedAround(room, size.height, natural?.media === media ? natural.shape : (picture?.width ?? 3) / (picture?.height ?? 2), views ? [...views.opening, ...views.closing] : [], 44)
  const inner = dragging && still.current ? still.current : fresh
  useEffect(() => {
    still.current = inner
  })
  const made = (which: 'opening' | 'closing', gesture: Gesture): Edit => ({
    edit: 'drag_view',
    scene: scene ?? '',
    layer: layer ?? '',
    which,
    handle: gesture.handle,
    start: gesture.start,
    end: gesture.end,
    constrain: gesture.constrain,
  })
  // The smaller view lies on top, so that both can be taken; of two alike, the one last touched.
  const alike = !views || Math.abs(polygonArea(views.opening) / polygonArea(views.closing) - 1) < 0.05
  const onTop = alike ? front : polygonArea(views.opening) < polygonArea(views.closing) ? 'opening' : 'closing'
  const order = onTop === 'opening' ? (['closing', 'opening'] as const) : (['opening', 'closing'] as const)
  return (
    <div ref={ref} className="relative flex min-h-0 flex-1 overflow-hidden bg-easel">
      {picture && media && size.width > 0 && (
        <>
          <img
            src={address.large(project, media, 1000, pictureMark(picture))}
            alt={picture.name}
            draggable={false}
            onLoad={(e) => setNatural({ media, shape: e.currentTarget.naturalWidth / e.currentTarget.naturalHeight })}
            className="absolute select-none shadow-[0_2px_18px_#0008]"
            style={inner}
          />
          {views && (
            <svg aria-label="Views on the picture" className="pointer-events-none absolute inset-y-0 left-0 h-full overflow-hidden" style={{ width: room }}>
              {order.map((which) => (
                <g key={which} onPointerDownCapture={() => setFront(which)} onFocus={() => setFront(which)}>
                  <Outline
                    look={which}
                    name={`the ${which} view`}
                    corners={views[which]}
                    box={inner}
                    origin={origin}
                    onTry={(g) => tryEdits([made(which, g)])}
                    onSet={(g) => void edit(made(which, g))}
                    onGiveUp={() => tryEdits(null)}
                  />
                </g>
              ))}
            </svg>
          )}
        </>
      )}
      <div className="ml-auto flex flex-col justify-center gap-3 pr-3.5" style={{ width: side + 14 }}>
        {(['opening', 'closing'] as const).map((which) => (
          <figure key={which}>
            <canvas
              ref={(node) => useScreen.getState().screen?.attach(which, node)}
              role="img"
              aria-label={`The frame the ${which} view gives`}
              className="block bg-black shadow-[0_2px_12px_#0008]"
              style={{ width: side, height: side / aspect }}
            />
            <figcaption className="mt-1 flex items-center gap-1.5 text-[12px] text-ash">
              <span aria-hidden="true" className={`size-2 rounded-full ${which === 'opening' ? 'bg-glow' : 'border-[1.5px] border-water'}`} />
              {which === 'opening' ? 'Opening view' : 'Closing view'}
            </figcaption>
          </figure>
        ))}
      </div>
      {!picture && <p className="m-auto text-ash">Choose a scene with a photo to see its views.</p>}
    </div>
  )
}
