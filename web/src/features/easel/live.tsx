import { type DragEvent, type MouseEvent, type PointerEvent, useRef } from 'react'
import type { Edit, Layer, LayerRef } from '@/api/client'
import { useFirstPicture, useGeometry, useScreen } from '@/playback/screen'
import type { Corner, Geometry } from '@/playback/socket'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { calledOf } from '@/project/kinds'
import { layersOf, newId, sceneAt, useProject, useSceneAlone } from '@/project/project'
import { chooseLayers, chooseScenes, compareWith, tryEdits, useSession } from '@/project/session'
import { later } from '@/ui/later'
import { useArea } from '@/interaction/area'
import { type Gesture, Outline } from './outline'
import { type Box, placed, toDocument, toView } from '@/interaction/placing'

const SURROUND = 0.07

const Compare = later<{ box: Box; onClose: () => void }>(() => import('./compare').then((m) => m.Compare))
const WritingOverlay = later<{ writing: LayerRef; box: Box; origin: () => { left: number; top: number }; onClose: () => void }>(() =>
  import('@/features/letters/writing-overlay').then((m) => m.WritingOverlay),
)
const MotionOverlay = later<{ box: Box; origin: () => { left: number; top: number }; onClose?: () => void }>(() => import('./motion-overlay').then((m) => m.MotionOverlay))
const Guides = later<{ box: Box; origin: () => { left: number; top: number }; lines: Geometry['lines']; safe: number; onClose?: () => void }>(() => import('./guides').then((m) => m.Guides))
const endComparing = () => compareWith(null)

type Placed = Geometry['layers'][number]

const same = (a: LayerRef, b: LayerRef) => a.scene === b.scene && a.layer === b.layer
const windowOf = (layer: Layer | undefined) => (layer?.kind === 'photo' && layer.window) || null
const refOf = (l: Placed): LayerRef => ({ scene: l.container, layer: l.layer })

/** The film at the playhead, with the outlines of the chosen scene's layers over it. */
export function Live({ playing }: { playing: boolean }) {
  const { ref, size, origin } = useArea()
  const frame = useProject((s) => s.document.frame)
  const aspect = (frame?.width ?? 16) / (frame?.height ?? 9)
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? null)
  const document = useSceneAlone(scene)
  const chosen = useSession((s) => s.chosenLayers)
  const target = useSession((s) => s.target)
  const recording = useSession((s) => s.recording)
  const timeline = useProject((s) => s.timeline)
  const geometry = useGeometry((s) => s.geometry)
  const shown = useGeometry((s) => s.scene)
  const writing = useSession((s) => s.writing)
  const span = timeline.spans.find((s) => s.scene === scene)
  const onScreen = useSession((s) => span !== undefined && s.playhead >= span.join_start && s.playhead < span.end)
  const box = placed(size.width, size.height, aspect, SURROUND)
  const copyId = useRef('')
  const pressedChosen = useRef(false)

  const record = (l: LayerRef) => layersOf(document, l.scene)[l.layer]
  const outermost = (l: Placed): LayerRef => outerLayer(geometry, scene ?? '', l, (r) => record(r))
  const name = (l: Placed) => calledOf(useProject.getState(), refOf(l)) || 'the layer'
  const usable = geometry.layers.filter((l) => {
    const layer = record(refOf(l))
    return layer && !l.locked && !layer.hidden && (layer.kind !== 'group' || chosen.some((c) => same(c, refOf(l))))
  })
  // With one layer alone there is nothing to choose: its handles are there unless something else is chosen.
  const only = usable.length === 1 && !chosen.length
  const isChosen = (l: Placed) => only || chosen.some((c) => same(c, refOf(l)))

  const press = (l: Placed) => (event: PointerEvent) => {
    const ref = chosen.some((c) => same(c, refOf(l))) ? refOf(l) : outermost(l)
    const present = useSession.getState().chosenLayers
    const has = present.some((c) => same(c, ref))
    const more = event.shiftKey || event.ctrlKey || event.metaKey
    if (!has) useSession.setState(more ? { chosenLayers: [...present, ref] } : { chosenLayers: [ref], target: 'layer' })
    // With Ctrl one drags freely: a chosen layer is let go only if it was not dragged.
    pressedChosen.current = has
    copyId.current = newId()
  }
  const tap = (l: Placed) => (event: PointerEvent) => {
    if (pressedChosen.current && (event.shiftKey || event.ctrlKey || event.metaKey)) chooseLayers(useSession.getState().chosenLayers.filter((c) => !same(c, refOf(l)) && !same(c, outermost(l))))
  }
  const made = (l: Placed, gesture: Gesture): Edit[] => {
    const { chosenLayers, playhead } = useSession.getState()
    const pressed = only ? refOf(l) : (chosenLayers.find((c) => same(c, refOf(l))) ?? outermost(l))
    const at = Math.round(playhead)
    const { handle, start, end, constrain, free, copy } = gesture
    if (chosenLayers.length > 1 && handle === 'inside') {
      const by: Corner = [end[0] - start[0], end[1] - start[1]]
      const square = [by[0] * aspect, by[1]] as const
      if (constrain) by[Math.abs(square[0]) >= Math.abs(square[1]) ? 1 : 0] = 0
      return [{ edit: 'nudge_layers', layers: chosenLayers, by, on: scene, at }]
    }
    const drag = (layer: string): Edit => ({
      edit: 'drag_layer',
      scene: pressed.scene,
      layer,
      on: scene,
      at,
      handle,
      start,
      end,
      constrain,
      snap: !free,
      target: target === 'picture' && windowOf(record(pressed)) && !handle.startsWith('edge') ? 'picture' : 'layer',
    })
    if (copy && handle === 'inside') return [{ edit: 'duplicate_layers', copies: [{ ...pressed, copy_id: copyId.current }] }, drag(copyId.current)]
    return [drag(pressed.layer)]
  }
  const set = async (l: Placed, gesture: Gesture) => {
    const edits = made(l, gesture)
    if ((await edit(...edits)) && gesture.copy && scene) chooseLayers([{ scene: l.container, layer: copyId.current }])
  }
  const enter = (l: Placed) => (event: MouseEvent) => {
    const layer = record(refOf(l))
    if (layer?.kind === 'text') return void import('@/features/letters/adding').then((m) => m.beginWriting(refOf(l)))
    // There is nothing to go into in a photo without a window: it is as good as empty.
    if (layer?.kind === 'photo' && !windowOf(layer)) writeHere(event)
    else useSession.setState({ chosenLayers: [refOf(l)], target: layer?.kind === 'photo' ? 'picture' : 'layer' })
  }

  const within = (event: { clientX: number; clientY: number }): Corner => {
    const o = origin()
    return toDocument(box, [event.clientX - o.left, event.clientY - o.top])
  }
  /** A double press on an empty place puts a text there. */
  const writeHere = (event: MouseEvent) => {
    if (!scene || !onScreen || playing) return
    const [x, y] = within(event)
    void import('@/features/letters/adding').then((m) => m.addText(undefined, x - 0.5, y - 0.5))
  }
  const drop = async (event: DragEvent) => {
    event.preventDefault()
    const files = [...event.dataTransfer.files]
    if (!files.length || !scene) return
    const at = within(event)
    const under = [...usable].reverse().find((l) => record(refOf(l))?.kind === 'photo' && holds(l.corners, at))
    await (await import('./dropped')).receive(files, scene, files.length === 1 && under ? refOf(under) : null)
  }
  const outline = (l: Placed, on: boolean) => {
    const window = windowOf(record(refOf(l)))
    const inPicture = on && target === 'picture' && window && l.picture.length === 4
    const common = {
      box,
      origin,
      onPress: press(l),
      onTap: tap(l),
      onEnter: enter(l),
      onTry: (g: Gesture) => tryEdits(made(l, g)),
      onSet: (g: Gesture) => void set(l, g),
      onGiveUp: () => tryEdits(null),
    }
    if (inPicture)
      return (
        <g key={`${l.container}${l.layer}`}>
          <WindowLine corners={l.window} box={box} />
          <Outline {...common} look="picture" name={`the picture in ${name(l)}`} corners={l.picture} />
        </g>
      )
    return <Outline key={`${l.container}${l.layer}`} {...common} look="layer" bare={!on} under={!on && isChosen(l)} edges={Boolean(on && window)} name={name(l)} corners={l.corners} />
  }
  return (
    <div ref={ref} className="relative min-h-0 flex-1 overflow-hidden bg-easel" onDragOver={(e) => e.preventDefault()} onDrop={(e) => void drop(e)}>
      <canvas
        ref={(node) => useScreen.getState().screen?.attach('film', node)}
        role="img"
        aria-label="The film at the playhead"
        onClick={chooseAtPlayhead}
        onDoubleClick={writeHere}
        className="absolute bg-black shadow-[0_2px_18px_#0008]"
        style={{ left: box.left, top: box.top, width: box.width, height: box.height }}
      />
      {!playing && <Lines box={box} origin={origin} />}
      {!playing && onScreen && writing && size.width > 0 && <WritingOverlay writing={writing} box={box} origin={origin} onClose={() => undefined} />}
      {!playing && onScreen && !writing && shown === scene && size.width > 0 && (
        <svg aria-label="Outlines" className="pointer-events-none absolute inset-0 h-full w-full">
          {/* What is chosen lies once more on top, so that its handles can be taken; a drag begun below goes on. */}
          {target !== 'camera' && usable.map((l) => outline(l, false))}
          {/* While changes are recorded a drag sets a key of the layer, wherever its path has others. */}
          {recording && <Overlay box={box} origin={origin} />}
          {target !== 'camera' && usable.filter(isChosen).map((l) => outline(l, true))}
          {!recording && <Overlay box={box} origin={origin} />}
          {target === 'camera' && scene && <CameraFrame box={box} origin={origin} scene={scene} />}
        </svg>
      )}
      <Notes box={box} playing={playing} onScreen={onScreen} />
    </div>
  )
}

/** Lines over the frame, where there are some: they are loaded when there first are. */
function Lines(props: { box: Box; origin: () => { left: number; top: number } }) {
  const lines = useGeometry((s) => s.geometry.lines)
  const wanted = useSession((s) => s.thirds || s.safe)
  const guides = useProject((s) => Boolean(s.document.guides?.length))
  return (wanted || guides || lines.length > 0) && <Guides {...props} lines={lines} safe={catalogue().safe_share} />
}

/** What is drawn over the layers, where there is something: it is loaded when there first is. */
function Overlay(props: { box: Box; origin: () => { left: number; top: number } }) {
  const chosen = useSession((s) => s.chosenLayers.length > 0)
  const some = useGeometry(({ geometry: g }) => Boolean(g.lamp || g.paths.length || g.ghosts.length || (chosen && g.layers.some((l) => l.locked))))
  return some && <MotionOverlay {...props} />
}

/** The window that a picture is moved in. */
const WindowLine = ({ corners, box }: { corners: Corner[]; box: Box }) => (
  <polygon points={corners.map((c) => toView(box, c).join()).join(' ')} fill="none" stroke="#fff" strokeWidth={1} pointerEvents="none" />
)

/** A press beside all layers: the scene that is seen is chosen, and none of its layers. */
function chooseAtPlayhead(): void {
  const found = sceneAt(useProject.getState().timeline, useSession.getState().playhead)
  if (found && found !== useSession.getState().chosenScenes.at(-1)) chooseScenes([found])
  else useSession.setState({ chosenLayers: [], target: 'layer' })
}

/** What is said over the picture: that it is being prepared, how it was in another version, that the scene is not seen now. */
function Notes({ box, playing, onScreen }: { box: Box; playing: boolean; onScreen: boolean }) {
  const compared = useSession((s) => s.compared)
  const seen = useFirstPicture((s) => s.seen)
  return (
    <>
      {!seen && (
        <p role="status" className="pointer-events-none absolute grid place-items-center text-ash" style={{ left: box.left, top: box.top, width: box.width, height: box.height }}>
          The picture is being prepared…
        </p>
      )}
      {!playing && compared && <Compare box={box} onClose={endComparing} />}
      {!playing && !onScreen && <p className="absolute bottom-3 left-1/2 -translate-x-1/2 rounded-full bg-black/50 px-3 py-1 text-[12px] text-ash">The chosen scene is not on screen at this moment</p>}
    </>
  )
}

/** The frame as a handle of the camera: its inside tracks, its corners dolly, its ring rolls. */
function CameraFrame({ box, origin, scene }: { box: Box; origin: () => { left: number; top: number }; scene: string }) {
  const made = (g: Gesture): Edit => ({ edit: 'drag_camera', scene, handle: g.handle, start: g.start, end: g.end, constrain: g.constrain, at: Math.round(useSession.getState().playhead) })
  const corners: Corner[] = [
    [0.03, 0.05],
    [0.97, 0.05],
    [0.97, 0.95],
    [0.03, 0.95],
  ]
  return <Outline look="layer" name="the camera" corners={corners} box={box} origin={origin} onTry={(g) => tryEdits([made(g)])} onSet={(g) => void edit(made(g))} onGiveUp={() => tryEdits(null)} />
}

/** The outermost group a layer is seen in, or the layer itself. */
function outerLayer(geometry: Geometry, scene: string, l: Placed, record: (r: LayerRef) => { kind?: string; shared?: string | null } | undefined): LayerRef {
  let at = l
  for (let step = 0; step < 20; step += 1) {
    const above = at.parent
      ? geometry.layers.find((g) => g.container === at.container && g.layer === at.parent)
      : at.container !== scene
        ? geometry.layers.find((g) => record(refOf(g))?.shared === at.container)
        : undefined
    if (!above) break
    at = above
  }
  return refOf(at)
}

/** Whether a point lies in a convex polygon. */
function holds(corners: Corner[], [x, y]: Corner): boolean {
  const sides = corners.map((a, i) => {
    const b = corners[(i + 1) % corners.length] as Corner
    return (b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0])
  })
  return sides.every((s) => s >= 0) || sides.every((s) => s <= 0)
}
