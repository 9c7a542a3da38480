import { control } from '@/project/controls'
import { useEffect } from 'react'
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react'
import type { Heard } from '@/api/client'
import { Part } from '@/ui/part'
import { typing } from '@/interaction/choosing'
import { can } from '@/project/command'
import { inOrder } from '@/project/ordering'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { clockText } from '@/project/times'
import { Button, IconButton } from '@/ui/button'
import { Choice, Select } from '@/ui/choice'
import { NumberField } from '@/ui/number'
import { useChosenSong } from './chosen-song'
import { SongZone } from './song-zone'
import { BEATS, beatHere, NO_POINTS, OWN_LENGTH, REMOVE_SONG, SONG_EARLIER, SONG_LATER, TAP } from './commands'

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
  const song = songs?.[id]
  const placed = heard.songs.find((s) => s.song === id)
  const sound = song && sounds?.[song.sound]
  const start = placed?.start
  // What is done at the playhead needs to know where the song lies.
  useEffect(() => useChosenSong.setState({ start: start ?? null }), [start])
  if (!song || !sound) return null
  const order = inOrder(songs).map(([k]) => k)
  const index = order.indexOf(id)
  const set = (partial: Record<string, unknown>) => void edit({ edit: 'set_songs', ids: [id], song: partial })
  const beats = sound.beats
  const rows = inOrder(scenes)
  const named = rows.map(([k, s], i) => [k, `${i + 1} ${s.name || 'Scene'}`] as const)
  const begins = song.over ? 'over' : song.at == null ? 'after' : 'at'
  return (
    <>
      <TapKey />
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
          <IconButton label="Earlier" disabled={index === 0} onClick={SONG_EARLIER.run}>
            <ArrowUp size={15} />
          </IconButton>
          <IconButton label="Later" disabled={index === order.length - 1} onClick={SONG_LATER.run}>
            <ArrowDown size={15} />
          </IconButton>
          <IconButton label={REMOVE_SONG.label} onClick={REMOVE_SONG.run}>
            <Trash2 size={15} />
          </IconButton>
        </div>
        <SongZone id={id} />
      </div>
      <Part title="Place">
        <Choice
          label="Begins"
          value={begins}
          choices={[['after', index ? 'After the one before' : 'At the start'], ['at', 'At a time'], ...(named.length ? ([['over', 'Over scenes']] as const) : [])]}
          onSet={(v) => set({ at: v === 'at' ? (start ?? 0) : null, over: v === 'over' ? [named[0]?.[0], named.at(-1)?.[0]] : null })}
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
        {!song.over && <NumberField {...control('song.length')} value={(placed?.end ?? 0) - (start ?? 0)} onSet={(v) => set({ length: v })} />}
        {song.length != null && (
          <Button kind="link" onClick={OWN_LENGTH.run}>
            {OWN_LENGTH.label}
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
          <Button kind="link" onClick={NO_POINTS.run}>
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
          {BEATS.map((c) => (
            <Button
              key={c.id}
              size="small"
              disabled={!beats && c !== TAP}
              title={c === TAP ? 'A beat where the playhead is; while it plays, tap along with T' : c.label}
              onClick={() => can(c) && c.run()}
            >
              {c.short}
            </Button>
          ))}
        </div>
        <NumberField
          {...control('beats.tempo')}
          value={beats?.tempo ?? 100}
          onSet={(tempo) => void edit({ edit: 'change_beats', sound: song.sound, how: 'even', tempo, at: Math.max(0, beatHere() ?? 0) })}
        />
      </Part>
    </>
  )
}

/** T taps a beat, wherever the focus is but in a field. */
function TapKey() {
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 't' || event.ctrlKey || event.metaKey || event.altKey || typing(event.target) || document.querySelector('[role=dialog]')) return
      if (can(TAP)) TAP.run()
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [])
  return null
}
