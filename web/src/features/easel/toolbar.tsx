import { AlignCenter, Eye, Frame, Grid3x3 } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { typing } from '@/interaction/choosing'
import { stopPlaying } from '@/playback/screen'
import { catalogue } from '@/project/catalogue'
import { menuOf } from '@/project/command'
import { layersOf, useProject } from '@/project/project'
import { lookAt, reachedLayers, takeHoldOf, tryEdits, useSession } from '@/project/session'
import { Choice } from '@/ui/choice'
import { later } from '@/ui/later'
import { Menu } from '@/ui/menu'

const commands = () => import('./commands')

const NinePlaces = later(() => import('./nine-places').then((m) => m.NinePlaces))

/** What the easel's upper edge offers: how to look, what drags take, where things go, what is drawn over. */
export function Toolbar() {
  const looking = useSession((s) => s.looking)
  const chosen = useSession((s) => s.chosenLayers)
  const target = useSession((s) => s.target)
  const windowed = useProject((s) =>
    chosen.some((r) => {
      const layer = layersOf(s.document, r.scene)[r.layer]
      return layer?.kind === 'photo' && layer.window
    }),
  )
  const button = 'flex h-7 items-center gap-1.5 rounded-lg px-2 hover:bg-white/10 disabled:opacity-40'
  useEffect(() => {
    const plain = (e: KeyboardEvent) => e.key.toLowerCase() === 'b' && !e.ctrlKey && !e.metaKey && !e.altKey && !typing(e.target) && !document.querySelector('[role=dialog]')
    const down = (e: KeyboardEvent) => plain(e) && !e.repeat && showBefore()
    const up = (e: KeyboardEvent) => plain(e) && tryEdits(null)
    window.addEventListener('keydown', down)
    window.addEventListener('keyup', up)
    return () => {
      window.removeEventListener('keydown', down)
      window.removeEventListener('keyup', up)
    }
  }, [])
  const after = () => tryEdits(null)
  return (
    <div className="flex h-[38px] shrink-0 items-center gap-1 px-2.5">
      <Choice
        dark
        label="Way of looking"
        value={looking}
        choices={[
          ['live', 'Live'],
          ['views', 'Views'],
          ['plan', 'Plan'],
        ]}
        onSet={(v) => {
          stopPlaying()
          lookAt(v as 'live' | 'views' | 'plan')
        }}
      />
      <span className="flex-1" />
      {looking === 'live' && target === 'camera' && (
        <button type="button" onClick={() => takeHoldOf('layer')} className="mr-2 flex h-7 items-center rounded-lg bg-glow px-2.5 text-night">
          Moving the camera · done
        </button>
      )}
      {looking === 'live' && target !== 'camera' && windowed && (
        <span className="mr-2 flex items-center gap-1.5 text-ash">
          <Choice
            dark
            label="What drags move"
            value={target}
            choices={[
              ['layer', 'Window'],
              ['picture', 'Picture in it'],
            ]}
            onSet={(v) => takeHoldOf(v as 'layer' | 'picture')}
          />
        </span>
      )}
      {looking === 'live' && target !== 'camera' && !windowed && (
        <span className="mr-2 hidden font-mono text-[11px] text-ash min-[1180px]:inline">{chosen.length > 1 ? `${chosen.length} layers chosen` : 'drag · corners size · ring turns'}</span>
      )}
      {looking === 'live' && (
        <>
          <button
            type="button"
            title="Hold to see the photo before its correction (key B)"
            onPointerDown={showBefore}
            onPointerUp={after}
            onPointerLeave={after}
            onKeyDown={(e) => e.key === 'Enter' && showBefore()}
            onKeyUp={(e) => e.key === 'Enter' && after()}
            className={button}
          >
            <Eye size={14} /> Before
          </button>
          <PlaceButton look={button} />
          <Menu
            trigger={
              <button type="button" disabled={chosen.length < 2} title="Edges together, even spaces" className={button}>
                <AlignCenter size={14} /> Align
              </button>
            }
            entries={async () => menuOf((await commands()).ALIGNING)}
          />
          <Menu
            trigger={
              <button type="button" className={button}>
                <Grid3x3 size={14} /> Guides
              </button>
            }
            entries={async () => menuOf((await commands()).OVER_THE_FRAME)}
          />
        </>
      )}
    </div>
  )
}

/** Shows the photos without any correction, until the trial ends. */
function showBefore(): void {
  const { document } = useProject.getState()
  const part = catalogue().look_parts.find((p) => p.id === 'correction')
  const plain = Object.fromEntries((part?.parameters ?? []).map((p) => [p.id, p.default]))
  const photos = reachedLayers().filter((r) => layersOf(document, r.scene)[r.layer]?.kind === 'photo')
  const media = [...new Set(photos.map((r) => (layersOf(document, r.scene)[r.layer] as { media: string }).media))]
  if (photos.length)
    tryEdits([
      { edit: 'set_layers', layers: photos, correction: plain },
      { edit: 'set_pictures', ids: media, correction: null },
    ])
}

/** Opens the nine places under it. */
function PlaceButton({ look }: { look: string }) {
  const [open, setOpen] = useState(false)
  const opener = useRef<HTMLButtonElement>(null)
  return (
    <span className="relative">
      <button ref={opener} type="button" aria-haspopup="dialog" aria-expanded={open} title="Nine places" onClick={() => setOpen(!open)} className={look}>
        <Frame size={14} /> Place
      </button>
      {open && <NinePlaces opener={opener} onClose={() => setOpen(false)} />}
    </span>
  )
}
