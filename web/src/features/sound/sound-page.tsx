import { AudioLines, FileMusic, Pause, Play, Plus, Sparkles, X } from 'lucide-react'
import { type DragEvent, useEffect, useState } from 'react'
import { FilmSound } from '@/playback/sound'
import { inOrder } from '@/project/ordering'
import { useProject } from '@/project/project'
import { movePlayhead, useSession } from '@/project/session'
import { clockText, toSeconds, TICKS } from '@/project/times'
import { Button, IconButton } from '@/ui/button'
import { chooseSong, chosenSong, useChosenSong } from './chosen-song'
import { ADD_MUSIC, CUT_ON_BEATS, FILM_TO_MUSIC, MAKE_MUSIC, MUSIC_TO_FILM } from './commands'
import { useHeard } from './heard'
import { addMusic, goOnListening, useComing } from './listening'
import { MixPart } from './mix-part'
import { SongPart } from './song-part'
import { Strip } from './strip'

/** Music under the film: songs in time, their levels and beats, and the film cut to them. */
export function SoundPage() {
  const songs = useProject((s) => s.document.songs)
  const timeline = useProject((s) => s.timeline)
  const heard = useHeard()
  const order = inOrder(songs).map(([k]) => k)
  useChosenSong((s) => s.song)
  const song = chosenSong()
  const end = Math.max(0, ...heard.songs.filter((s) => !songs?.[s.song]?.over).map((s) => s.end))
  const differ = toSeconds(end - timeline.length)
  const drop = (event: DragEvent) => {
    event.preventDefault()
    if (event.dataTransfer.files.length) void addMusic([...event.dataTransfer.files])
  }
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_300px]" onDragOver={(e) => e.preventDefault()} onDrop={drop}>
      <section aria-label="Music" className="flex min-h-0 flex-col">
        <div className="flex flex-wrap items-center gap-2 border-b hairline px-4 py-2.5">
          <h1 className="mr-2 font-heading text-[17px] font-semibold">Sound</h1>
          <Button kind="strong" onClick={ADD_MUSIC.run}>
            <Plus size={15} /> {ADD_MUSIC.label}
          </Button>
          <Button onClick={MAKE_MUSIC.run}>
            <Sparkles size={15} /> {MAKE_MUSIC.label}
          </Button>
          <span className="flex-1" />
          {order.length > 0 && timeline.spans.length > 0 && (
            <>
              <span role="status" className="text-[12.5px] text-soft">
                {Math.abs(differ) < 0.02
                  ? 'The film ends with the music.'
                  : differ > 0
                    ? `The music goes on ${differ.toFixed(1)} s after the film.`
                    : `The music ends ${(-differ).toFixed(1)} s before the film.`}
              </span>
              <Button onClick={FILM_TO_MUSIC.run} title="Holds are worked out so that the film ends with the music">
                {FILM_TO_MUSIC.short}
              </Button>
              <Button onClick={MUSIC_TO_FILM.run} title="The last song is trimmed or looped to the film’s length, with a fade">
                {MUSIC_TO_FILM.short}
              </Button>
              <Button disabled={!heard.beats.length} onClick={CUT_ON_BEATS.run}>
                <AudioLines size={15} /> {CUT_ON_BEATS.label}
              </Button>
            </>
          )}
        </div>
        <OnTheirWay />
        {order.length === 0 ? (
          <div className="grid min-h-0 flex-1 place-items-center p-8">
            <div className="max-w-md rounded-2xl border border-dashed hairline p-12 text-center">
              <FileMusic className="mx-auto mb-4 text-brass" size={34} strokeWidth={1.4} />
              <h2 className="font-heading text-xl">The film has no music yet</h2>
              <p className="mt-2 text-soft">Drop sound files here, or have a piece made to the film’s length. Beats are found by themselves; then scenes can be cut on them.</p>
            </div>
          </div>
        ) : (
          <>
            <Player />
            <Strip heard={heard} chosen={song} onChoose={chooseSong} />
          </>
        )}
      </section>
      <aside aria-label="Details" className="min-h-0 overflow-y-auto border-l hairline">
        {song && <SongPart key={song} id={song} heard={heard} />}
        <MixPart />
      </aside>
    </div>
  )
}

/** Files that are being sent or listened to. */
function OnTheirWay() {
  const project = useProject((s) => s.id)
  const coming = useComing((s) => s.coming).filter((c) => c.project === project)
  useEffect(() => void goOnListening(project), [project])
  if (!coming.length) return null
  return (
    <ul aria-label="Music on its way" className="border-b hairline px-4 py-1.5">
      {coming.map((c) => (
        <li key={c.key} className="flex h-7 items-center gap-3">
          <span className="min-w-0 flex-1 truncate">
            {c.name} <span className="text-soft">{c.stage === 'sent' ? 'is being sent' : 'is being listened to: level, waveform, beats'}</span>
          </span>
          <span role="progressbar" aria-label={c.name} aria-valuenow={Math.round(c.share * 100)} aria-valuemin={0} aria-valuemax={100} className="h-1.5 w-40 overflow-hidden rounded-full bg-rule">
            <span className="block h-full bg-brass transition-[width]" style={{ width: `${c.share * 100}%` }} />
          </span>
          <IconButton label={`Cancel ${c.name}`} onClick={c.stop}>
            <X size={15} />
          </IconButton>
        </li>
      ))}
    </ul>
  )
}

/** Plays the film's sound from the playhead. What is changed meanwhile is heard from the next piece on. */
function Player() {
  const project = useProject((s) => s.id)
  const playhead = useSession((s) => s.playhead)
  const length = useProject((s) => s.timeline.length)
  const heardUntil = useHeard().songs.reduce((latest, s) => Math.max(latest, s.end), 0)
  const [playing, setPlaying] = useState(false)
  const end = length || heardUntil
  useEffect(() => {
    if (!playing) return
    const player = new FilmSound()
    const from = useSession.getState().playhead >= end - TICKS / 20 ? 0 : useSession.getState().playhead
    player.prepare(project, from, end)
    let clock: (() => number) | null = null
    let raf = 0
    const tick = () => {
      raf = requestAnimationFrame(tick)
      if (!clock && player.ready) clock = player.begin()
      if (!clock) return
      const at = from + Math.max(0, clock()) * TICKS
      movePlayhead(Math.min(at, end))
      if (at >= end) setPlaying(false)
    }
    tick()
    return () => {
      cancelAnimationFrame(raf)
      player.stop()
    }
  }, [playing, project, end])
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLElement && event.target.closest('input, select, textarea, button, [role=dialog]')) return
      if (event.key === ' ') {
        event.preventDefault()
        setPlaying((p) => !p)
      }
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [])
  return (
    <div className="flex items-center gap-3 border-b hairline px-4 py-1.5">
      <button
        type="button"
        aria-label={playing ? 'Pause' : 'Play the sound'}
        disabled={!end}
        onClick={() => setPlaying(!playing)}
        className="grid size-8 place-items-center rounded-full bg-ink text-on-ink"
      >
        {playing ? <Pause size={15} fill="currentColor" /> : <Play size={15} fill="currentColor" className="ml-0.5" />}
      </button>
      <span role="timer" aria-label="Playhead" className="font-mono text-[12.5px]">
        {clockText(playhead)} <span className="text-soft">of {clockText(end)}</span>
      </span>
    </div>
  )
}
