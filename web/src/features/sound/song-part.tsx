import { useEffect, useRef } from 'react'
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react'
import type { Heard, EditOf } from '@/api/client'
import { Part } from '@/features/details/parts'
import { typing } from '@/interaction/choosing'
import { inOrder } from '@/project/ordering'
import { edit, useProject } from '@/project/store'
import { clockText, toSeconds, toTicks, TICKS } from '@/project/times'
import { Button, IconButton } from '@/ui/button'
import { Choice, Select } from '@/ui/choice'
import { NumberField } from '@/ui/number'

const CURVES = [['power', 'Even to the ear'], ['even', 'Straight'], ['gentle', 'Gentle']] as const

/** One song: where it stands, its trims, fades and level, and its beats. */
export function SongPart({ id, heard }: { id: string; heard: Heard }) {
  const songs = useProject((s) => s.document.songs)
  const sounds = useProject((s) => s.document.sounds)
  const scenes = useProject((s) => s.document.scenes)
  const playhead = useProject((s) => s.playhead)
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
          {clockText(sound.length)} · {sound.channels === 1 ? 'mono' : sound.channels === 2 ? 'stereo' : `${sound.channels} channels`} · {((sound.rate ?? 0) / 1000).toFixed(1)} kHz · {sound.loudness == null ? 'silent' : `${sound.loudness.toFixed(1)} LUFS`}
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
        <Choice label="Begins" value={begins} choices={[['after', index ? 'After the one before' : 'At the start'], ['at', 'At a time'], ...(named.length ? ([['over', 'Over scenes']] as const) : [])]} onSet={(v) => set({ at: v === 'at' ? start : null, over: v === 'over' ? [named[0]?.[0], named.at(-1)?.[0]] : null })} />
        {begins === 'at' && <NumberField label="Begins at" value={toSeconds(song.at ?? 0)} minimum={0} maximum={3600} usual={[0, 300]} step={0.1} unit="s" onSet={(v) => set({ at: toTicks(v) })} />}
        {begins === 'after' && index > 0 && <NumberField label="Crossfade" help="It begins so long before the song before ends; both fade into each other" value={toSeconds(song.overlap ?? 0)} minimum={0} maximum={60} usual={[0, 12]} step={0.1} unit="s" onSet={(v) => set({ overlap: toTicks(v) })} />}
        {song.over && (
          <div className="my-1 space-y-1">
            <Select label="From scene" value={song.over[0] as string} choices={named} onSet={(v) => set({ over: [v, song.over?.[1]] })} className="w-full" />
            <Select label="To scene" value={song.over[1] as string} choices={named} onSet={(v) => set({ over: [song.over?.[0], v] })} className="w-full" />
          </div>
        )}
        <NumberField label="Trim start" value={toSeconds(song.trim_start ?? 0)} minimum={0} maximum={toSeconds(sound.length)} step={0.1} unit="s" onSet={(v) => set({ trim_start: toTicks(v) })} />
        <NumberField label="Trim end" value={toSeconds(song.trim_end ?? sound.length)} minimum={0.1} maximum={toSeconds(sound.length)} step={0.1} unit="s" onSet={(v) => set({ trim_end: v >= toSeconds(sound.length) - 0.001 ? null : toTicks(v) })} />
        {!song.over && <NumberField label="Length" help="In the film; a longer one loops the song from bar to bar" value={toSeconds((placed?.end ?? 0) - start)} minimum={0.1} maximum={3600} usual={[1, 300]} step={0.1} unit="s" onSet={(v) => set({ length: toTicks(v) })} />}
        {song.length != null && (
          <Button kind="link" onClick={() => set({ length: null })}>
            As long as the song is
          </Button>
        )}
      </Part>
      <Part title="Level">
        <NumberField label="Level" value={song.gain ?? 0} minimum={-60} maximum={24} usual={[-30, 6]} step={0.5} unit="dB" onSet={(gain) => set({ gain })} />
        <NumberField label="Fade in" value={toSeconds(song.fade_in ?? 0)} minimum={0} maximum={120} usual={[0, 15]} step={0.1} unit="s" onSet={(v) => set({ fade_in: toTicks(v) })} />
        <NumberField label="Fade out" value={toSeconds(song.fade_out ?? 0)} minimum={0} maximum={120} usual={[0, 15]} step={0.1} unit="s" onSet={(v) => set({ fade_out: toTicks(v) })} />
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
          <Button className="!h-7" disabled={!beats} onClick={() => correct('half')}>Half</Button>
          <Button className="!h-7" disabled={!beats} onClick={() => correct('double')}>Double</Button>
          <Button className="!h-7" disabled={!beats} title="All a hundredth of a second earlier" onClick={() => correct('shift', { by: -TICKS / 100 })}>Earlier</Button>
          <Button className="!h-7" disabled={!beats} title="All a hundredth of a second later" onClick={() => correct('shift', { by: TICKS / 100 })}>Later</Button>
          <Button className="!h-7" disabled={!beats} title="Bars begin one beat later" onClick={() => correct('bars')}>Move bars</Button>
          <Button className="!h-7" title="A beat where the playhead is; while it plays, tap along with T" onClick={tap}>Tap</Button>
          <Button className="!h-7" disabled={!beats} title="Without the beat at the playhead" onClick={() => correct('remove', { at: Math.max(0, tapAt) })}>Remove</Button>
        </div>
        <NumberField label="Even tempo" help="An even row of beats from the playhead, in beats a minute" value={beats?.tempo ?? 100} minimum={20} maximum={400} usual={[50, 180]} step={0.1} onSet={(tempo) => correct('even', { tempo, at: Math.max(0, tapAt) })} />
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
