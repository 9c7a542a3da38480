import { ChevronLeft, ChevronRight, Maximize, Pause, Play, Repeat } from 'lucide-react'
import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { address } from '@/api/client'
import { Screen, seek, startPlaying, stepFrames, stopPlaying, togglePlaying, useGeometry, useScreen } from '@/playback/screen'
import { edit, sceneAt, tryEdits, useProject } from '@/project/store'
import { frameText } from '@/project/times'
import { IconButton } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { toggleFullScreen } from './full-screen'
import { type Gesture, Outline } from './outline'
import { type Box, placed, placedAround, polygonArea } from './placing'
import { ScrubBar } from './scrub-bar'

const SURROUND = 0.07

/** Follows an element's size. */
function useArea() {
  const ref = useRef<HTMLDivElement>(null)
  const [size, setSize] = useState({ width: 0, height: 0 })
  useLayoutEffect(() => {
    const node = ref.current
    if (!node) return
    const watch = new ResizeObserver(() => setSize({ width: node.clientWidth, height: node.clientHeight }))
    watch.observe(node)
    setSize({ width: node.clientWidth, height: node.clientHeight })
    return () => watch.disconnect()
  }, [])
  return { ref, size, origin: () => ref.current?.getBoundingClientRect() ?? { left: 0, top: 0 } }
}

export function Easel() {
  const project = useProject((s) => s.id)
  const looking = useProject((s) => s.looking)
  const playing = useProject((s) => s.playing)
  const fault = useGeometry((s) => s.fault)

  useEffect(() => {
    const screen = new Screen(project)
    useScreen.setState({ screen })
    // What is seen follows the document, what is tried, what is chosen and the way of looking.
    const stop = useProject.subscribe((now, before) => {
      const same = now.revision === before.revision && now.tried === before.tried && now.chosenScenes === before.chosenScenes && now.looking === before.looking
      if (same) return
      if (now.playing && now.revision !== before.revision) stopPlaying()
      screen.refresh(Boolean(now.tried))
    })
    screen.refresh(false)
    return () => {
      stop()
      useProject.setState({ playing: false })
      screen.close()
      useScreen.setState({ screen: null })
    }
  }, [project])

  return (
    <section aria-label="Easel" id="easel" className="on-dark flex min-h-0 min-w-0 flex-col bg-surround text-chalk">
      <div className="flex h-[38px] shrink-0 items-center justify-between px-2.5">
        <Choice
          dark
          label="Way of looking"
          value={looking}
          choices={[
            ['live', 'Live'],
            ['views', 'Views side by side'],
          ]}
          onSet={(v) => {
            stopPlaying()
            useProject.setState({ looking: v as 'live' | 'views' })
          }}
        />
        <span className="font-mono text-[11.5px] text-ash">{looking === 'live' ? 'drag the photo · corners size · ring turns' : 'drag either view on the picture'}</span>
      </div>
      {fault && (
        <p role="alert" className="bg-rowan px-4 py-1.5 text-white">
          {fault}
        </p>
      )}
      {looking === 'live' ? <Live playing={playing} /> : <Views />}
      <Transport />
    </section>
  )
}

function Live({ playing }: { playing: boolean }) {
  const { ref, size, origin } = useArea()
  const frame = useProject((s) => s.document.frame)
  const aspect = (frame?.width ?? 16) / (frame?.height ?? 9)
  const scene = useProject((s) => s.chosenScenes.at(-1) ?? null)
  const timeline = useProject((s) => s.timeline)
  const geometry = useGeometry((s) => s.geometry)
  const shown = useGeometry((s) => s.scene)
  const span = timeline.spans.find((s) => s.scene === scene)
  const onScreen = useProject((s) => span !== undefined && s.playhead >= span.join_start && s.playhead < span.end)
  const name = useProject((s) => (scene ? s.document.scenes?.[scene]?.name : '')) || 'the photo'
  const box = placed(size.width, size.height, aspect, SURROUND)
  const made = (layer: string, gesture: Gesture) => ({ edit: 'drag_photo', scene, layer, ...gesture })

  const chooseHere = () => {
    const found = sceneAt(timeline, useProject.getState().playhead)
    if (found && found !== scene) useProject.setState({ chosenScenes: [found] })
  }
  return (
    <div ref={ref} className="relative min-h-0 flex-1 overflow-hidden bg-easel">
      <canvas
        ref={(node) => useScreen.getState().screen?.attach('film', node)}
        role="img"
        aria-label="The film at the playhead"
        onClick={chooseHere}
        className="absolute bg-black shadow-[0_2px_18px_#0008]"
        style={{ left: box.left, top: box.top, width: box.width, height: box.height }}
      />
      {!playing && onScreen && shown === scene && size.width > 0 && (
        <svg aria-label="Outlines" className="pointer-events-none absolute inset-0 h-full w-full">
          {geometry.layers.map((l) => (
            <Outline key={l.layer} look="photo" name={name} corners={l.corners} box={box} origin={origin} onTry={(g) => tryEdits([made(l.layer, g)])} onSet={(g) => void edit(made(l.layer, g))} onGiveUp={() => tryEdits(null)} />
          ))}
        </svg>
      )}
      {!playing && !onScreen && <p className="absolute bottom-3 left-1/2 -translate-x-1/2 rounded-full bg-black/50 px-3 py-1 text-[12px] text-ash">The chosen scene is not on screen at this moment</p>}
    </div>
  )
}

function Views() {
  const { ref, size, origin } = useArea()
  const project = useProject((s) => s.id)
  const frame = useProject((s) => s.document.frame)
  const aspect = (frame?.width ?? 16) / (frame?.height ?? 9)
  const scene = useProject((s) => s.chosenScenes.at(-1) ?? null)
  const media = useProject((s) => {
    const photo = Object.values((scene && s.document.scenes?.[scene]?.layers) || {})[0]
    return photo ? photo.media : null
  })
  const picture = useProject((s) => (media ? s.document.media?.[media] : undefined))
  const geometry = useGeometry((s) => s.geometry)
  const shown = useGeometry((s) => s.scene)
  const views = shown === scene ? geometry.views[0] : undefined
  const [front, setFront] = useState<'opening' | 'closing'>('opening')
  // Two frames stand at the right; the picture takes the rest, with room for views that reach beyond it.
  const side = Math.min(size.width * 0.32, ((size.height - 70) / 2) * aspect)
  const room = Math.max(1, size.width - side - 34)
  const dragging = useProject((s) => s.tried !== null)
  const still = useRef<Box | null>(null)
  // The picture stays where it is while a view is dragged, even far beyond it.
  const fresh = placedAround(room, size.height, (picture?.width ?? 3) / (picture?.height ?? 2), views ? [...views.opening, ...views.closing] : [], 44)
  const inner = dragging && still.current ? still.current : fresh
  useEffect(() => {
    still.current = inner
  })
  const made = (which: 'opening' | 'closing', gesture: Gesture) => ({ edit: 'drag_view', scene, layer: views?.layer, which, ...gesture })
  // The smaller view lies on top, so that both can be taken; of two alike, the one last touched.
  const alike = !views || Math.abs(polygonArea(views.opening) / polygonArea(views.closing) - 1) < 0.05
  const onTop = alike ? front : polygonArea(views.opening) < polygonArea(views.closing) ? 'opening' : 'closing'
  const order = onTop === 'opening' ? (['closing', 'opening'] as const) : (['opening', 'closing'] as const)
  return (
    <div ref={ref} className="relative flex min-h-0 flex-1 overflow-hidden bg-easel">
      {picture && media && size.width > 0 && (
        <>
          <img src={address.large(project, media, 1000)} alt={picture.name} draggable={false} className="absolute select-none shadow-[0_2px_18px_#0008]" style={inner} />
          {views && (
            <svg aria-label="Views on the picture" className="pointer-events-none absolute inset-y-0 left-0 h-full overflow-hidden" style={{ width: room }}>
              {order.map((which) => (
                <g key={which} onPointerDownCapture={() => setFront(which)} onFocus={() => setFront(which)}>
                  <Outline look={which} name={`the ${which} view`} corners={views[which]} box={inner} origin={origin} onTry={(g) => tryEdits([made(which, g)])} onSet={(g) => void edit(made(which, g))} onGiveUp={() => tryEdits(null)} />
                </g>
              ))}
            </svg>
          )}
        </>
      )}
      <div className="ml-auto flex flex-col justify-center gap-3 pr-3.5" style={{ width: side + 14 }}>
        {(['opening', 'closing'] as const).map((which) => (
          <figure key={which}>
            <canvas ref={(node) => useScreen.getState().screen?.attach(which, node)} role="img" aria-label={`The frame the ${which} view gives`} className="block bg-black shadow-[0_2px_12px_#0008]" style={{ width: side, height: side / aspect }} />
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

function Transport() {
  const playing = useProject((s) => s.playing)
  const loop = useProject((s) => s.loopScene)
  const timeline = useProject((s) => s.timeline)
  const toggleLoop = () => {
    useProject.setState({ loopScene: !loop })
    if (playing) {
      stopPlaying()
      startPlaying()
    }
  }
  return (
    <div className="flex h-[46px] shrink-0 items-center gap-2 bg-pit px-3">
      <button type="button" aria-label={playing ? 'Pause' : 'Play'} onClick={togglePlaying} className="grid size-8 shrink-0 place-items-center rounded-full bg-chalk text-[#2b2620] hover:bg-white">
        {playing ? <Pause size={15} fill="currentColor" /> : <Play size={15} fill="currentColor" className="ml-0.5" />}
      </button>
      <IconButton kind="dark" label="One frame back" onClick={() => stepFrames(-1)} className="!w-7">
        <ChevronLeft size={17} />
      </IconButton>
      <IconButton kind="dark" label="One frame on" onClick={() => stepFrames(1)} className="!w-7">
        <ChevronRight size={17} />
      </IconButton>
      <Now />
      <ScrubBar onSeek={seek} />
      <span className="font-mono text-[12.5px] text-ash">{frameText(timeline.length, timeline.frame_ticks)}</span>
      <button type="button" aria-pressed={loop} onClick={toggleLoop} className={`flex h-7 items-center gap-1.5 rounded-lg px-2 ${loop ? 'bg-glow text-[#2b2620]' : 'hover:bg-white/10'}`}>
        <Repeat size={14} /> Loop scene
      </button>
      <IconButton kind="dark" label="Full screen" onClick={toggleFullScreen}>
        <Maximize size={15} />
      </IconButton>
    </div>
  )
}

function Now() {
  const text = useProject((s) => frameText(s.playhead, s.timeline.frame_ticks))
  return (
    <span role="timer" aria-label="Playhead" title="minutes : seconds . frames" className="w-[58px] font-mono text-[12.5px]">
      {text}
    </span>
  )
}
