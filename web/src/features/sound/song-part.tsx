import { control } from '@/project/controls'
import { useEffect, useRef } from 'react'
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react'
import type { Heard, EditOf } from '@/api/client'
import { Part } from '@/ui/part'
import { typing } from '@/interaction/choosing'
import { inOrder } from '@/project/ordering'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { clockText, TICKS } from '@/project/times'
import { Button, IconButton } from '@/ui/button'
import { Choice, Select } from '@/ui/choice'
import { NumberField } from '@/ui/number'

const CURVES = [
  ['power', 'Even to the ear'],
  ['even', 'Straight'],
  ['gentle', 'Gentle'],
] as const

/** One song: where it stands, its trims, fades and level, and its beats. */
export function SongPart({ id, heard }: { id: string; heard: Heard }) {
  const songs = useProject((s) => s.document.songs)
  const sounds = useProject((s) => s.document.sounds)
  const scenes = useProject((s) => s.document.scenes)
  const playhead = useSession((s) => s.playhead)
  const song = songs?.[id]
  const sound = song && sounds?.[song.sound]
  if (!song || !sound) return null
  const order = inOrder(songs).map(([k]) => k)
  const index = order.indexOf(id)
  const placed = heard.songs.find((s) => s.song === id)
  const set = (partial: Record<string, unknown>) => void edit({ edit: 'set_songs', ids: [id], song: partial })
  const beats = sound.beats
  const correct = (how: EditOf<'change_beats'>['how'], more: Partial<EditOf<'change_beats'>> = {}) => void edit({ edit: 'change_beats', sound: song.sound, how, ...more })
  const moved = (way: -1 | 1) => void edit({ edit: 'move_songs', ids: [id], before: (way < 0 ? order[index - 1] : order[index + 2]) ?? null })
  const rows = inOrder(scenes)
  const named = rows.map(([k, s], i) => [k, `${i + 1} ${s.name || 'Scene'}`] as const)
  const begins = song.over ? 'over' : song.at == null ? 'after' : 'at'
  const start = placed?.start ?? 0
  const tapAt = (song.trim_start ?? 0) + Math.round(playhead) - start
  const tap = () => tapAt >= 0 && correct('add', { at: tapAt })
  return (
    <>
      <TapKey tap={tap} />
      <div className="border-b hairline px-4 py-3">
        <h2 className="truncate font-semibold">{sound.name}</h2>
        <p className="text-[12px] text-soft">
          {clockText(sound.length)} · {sound.channels === 1 ? 'mono' : sound.channels === 2 ? 'stereo' : `${sound.channels} channels`} · {((sound.rate ?? 0) / 1000).toFixed(1)} kHz ·{' '}
          {sound.loudness == null ? 'silent' : `${sound.loudness.toFixed(1)} LUFS`}
        </p>
        {sound.licence && <p className="text-[12px] text-soft">{sound.licence}</p>}
        <div className="mt-1 flex items-center gap-1">
          <label className="mr-auto flex items-center gap-2">
            <input type="checkbox" checked={song.muted ?? false} onChange={(e) => set({ muted: e.target.checked })} /> Muted
          </label>
          <IconButton label="Earlier" disabled={index === 0} onClick={() => moved(-1)}>
            <ArrowUp size={15} />
          </IconButton>
          <IconButton label="Later" disabled={index === order.length - 1} onClick={() => moved(1)}>
            <ArrowDown size={15} />
          </IconButton>
          <IconButton label="Take the song out" onClick={() => void edit({ edit: 'remove_songs', ids: [id] })}>
            <Trash2 size={15} />
          </IconButton>
        </div>
      </div>
      <Part title="Place">
        <Choice
          label="Begins"
          value={begins}
          choices={[['after', index ? 'After the one before' : 'At the start'], ['at', 'At a time'], ...(named.length ? ([['over', 'Over scenes']] as const) : [])]}
          onSet={(v) => set({ at: v === 'at' ? start : null, over: v === 'over' ? [named[0]?.[0], named.at(-1)?.[0]] : null })}
        />
        {begins === 'at' && <NumberField {...control('song.at')} value={song.at ?? 0} onSet={(at) => set({ at })} />}
        {begins === 'after' && index > 0 && <NumberField {...control('song.overlap')} value={song.overlap ?? 0} onSet={(overlap) => set({ overlap })} />}
        {song.over && (
          <div className="my-1 space-y-1">
            <Select label="From scene" value={song.over[0] as string} choices={named} onSet={(v) => set({ over: [v, song.over?.[1]] })} className="w-full" />
            <Select label="To scene" value={song.over[1] as string} choices={named} onSet={(v) => set({ over: [song.over?.[0], v] })} className="w-full" />
          </div>
        )}
        <NumberField {...control('song.trim_start')} value={song.trim_start ?? 0} maximum={sound.length} usual={[0, sound.length]} onSet={(v) => set({ trim_start: v })} />
        <NumberField
          {...control('song.trim_end')}
          value={song.trim_end ?? sound.length}
          maximum={sound.length}
          usual={[0, sound.length]}
          onSet={(v) => set({ trim_end: v >= sound.length ? null : v })}
        />
        {!song.over && <NumberField {...control('song.length')} value={(placed?.end ?? 0) - start} onSet={(v) => set({ length: v })} />}
        {song.length != null && (
          <Button kind="link" onClick={() => set({ length: null })}>
            As long as the song is
          </Button>
        )}
      </Part>
      <Part title="Level">
        <NumberField {...control('song.gain')} value={song.gain ?? 0} onSet={(gain) => set({ gain })} />
        <NumberField {...control('song.fade_in')} value={song.fade_in ?? 0} onSet={(v) => set({ fade_in: v })} />
        <NumberField {...control('song.fade_out')} value={song.fade_out ?? 0} onSet={(v) => set({ fade_out: v })} />
        <Choice label="Curve of fades" value={song.curve ?? 'power'} choices={CURVES} onSet={(curve) => set({ curve })} />
        <p className="mt-1.5 text-[12px] text-soft">Double-click the song to set a point of its level; drag points, or delete them.</p>
        {Object.keys(song.points ?? {}).length > 0 && (
          <Button kind="link" onClick={() => set({ points: {} })}>
            Without points
          </Button>
        )}
      </Part>
      <Part title="Beats" source={beats ? <span className="text-soft">{beats.confidence === 1 ? 'exact' : `${Math.round((beats.confidence ?? 0) * 100)} % sure`}</span> : undefined}>
        {beats?.times.length ? (
          <p className="mb-1.5">
            <span className="font-mono">{beats.tempo.toFixed(1)}</span> beats a minute, {beats.times.length} beats
          </p>
        ) : (
          <p className="mb-1.5 text-soft">No beats were found. Tap them while it plays, or give a tempo.</p>
        )}
        <div className="flex flex-wrap gap-1.5">
          <Button size="small" disabled={!beats} onClick={() => correct('half')}>
            Half
          </Button>
          <Button size="small" disabled={!beats} onClick={() => correct('double')}>
            Double
          </Button>
          <Button size="small" disabled={!beats} title="All a hundredth of a second earlier" onClick={() => correct('shift', { by: -TICKS / 100 })}>
            Earlier
          </Button>
          <Button size="small" disabled={!beats} title="All a hundredth of a second later" onClick={() => correct('shift', { by: TICKS / 100 })}>
            Later
          </Button>
          <Button size="small" disabled={!beats} title="Bars begin one beat later" onClick={() => correct('bars')}>
            Move bars
          </Button>
          <Button size="small" title="A beat where the playhead is; while it plays, tap along with T" onClick={tap}>
            Tap
          </Button>
          <Button size="small" disabled={!beats} title="Without the beat at the playhead" onClick={() => correct('remove', { at: Math.max(0, tapAt) })}>
            Remove
          </Button>
        </div>
        <NumberField {...control('beats.tempo')} value={beats?.tempo ?? 100} onSet={(tempo) => correct('even', { tempo, at: Math.max(0, tapAt) })} />
      </Part>
    </>
  )
}

/** T taps a beat, wherever the focus is but in a field. */
function TapKey({ tap }: { tap: () => void }) {
  const latest = useRef(tap)
  latest.current = tap
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 't' || event.ctrlKey || event.metaKey || event.altKey || typing(event.target) || document.querySelector('[role=dialog]')) return
      latest.current()
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [])
  return null
}
