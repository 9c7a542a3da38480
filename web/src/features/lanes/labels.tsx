import { ChevronDown, ChevronRight } from 'lucide-react'
import { ownTime, type SceneTime } from '@/project/scene-time'
import { chooseKeys, useSession } from '@/project/session'
import { pxAt, type TimeScale } from '@/project/time-scale'
import { keyRef } from './actions'
import { LABELS, type Track } from './model'

/** The playhead over the rows: all that moves while the film plays. */
export function PlayheadLine({ scale, time, height }: { scale: TimeScale; time: SceneTime; height: number }) {
  const playhead = useSession((s) => s.playhead)
  return <span className="pointer-events-none absolute top-0 w-[1.5px] -translate-x-1/2 bg-white" style={{ left: pxAt(scale, ownTime(playhead, time)), height }} />
}

/** What a row is of. */
export function Label({ track, chosen }: { track: Track; chosen: boolean }) {
  const [container, layer, owner] = track.kind === 'bars' ? [track.container, track.layer, track.owner] : [track.row.container, track.row.layer, track.row.owner]
  const text = track.kind === 'bars' ? 'moves' : track.row.label.toLowerCase()
  const open = track.kind === 'lane' && track.open
  const toggle = () => {
    const now = useSession.getState().openLanes
    useSession.setState({ openLanes: now.includes(track.id) ? now.filter((i) => i !== track.id) : [...now, track.id] })
  }
  const choose = () => {
    if (layer !== null) useSession.setState({ chosenLayers: [{ scene: container, layer }], looking: useSession.getState().looking === 'views' ? 'live' : useSession.getState().looking })
    if (track.kind === 'lane') chooseKeys(track.row.keys.map((k) => keyRef(track.row, k.id)))
  }
  return (
    <div className="absolute left-0 flex items-start overflow-hidden bg-pit" style={{ top: track.top, height: track.height, width: LABELS }}>
      {track.kind === 'lane' ? (
        <button
          type="button"
          aria-expanded={open}
          aria-label={`Curve of ${owner || 'the scene'}, ${track.row.label}`}
          onClick={toggle}
          className="grid h-[26px] w-6 shrink-0 place-items-center text-ash hover:text-chalk"
        >
          {open ? <ChevronDown size={12} /> : <ChevronRight size={12} />}
        </button>
      ) : (
        <span className="w-6 shrink-0" />
      )}
      <button type="button" title={track.kind === 'lane' ? 'Choose all keyframes of this lane' : undefined} onClick={choose} className="flex h-[26px] min-w-0 flex-1 items-center gap-1.5 text-left">
        {(track.first || track.kind === 'bars') && owner && <span className={`min-w-0 shrink truncate ${chosen ? 'text-glow' : ''}`}>{owner}</span>}
        <span className="shrink-0 truncate text-[12px] text-ash">{text}</span>
      </button>
    </div>
  )
}
