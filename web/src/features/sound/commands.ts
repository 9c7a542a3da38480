import type { EditOf } from '@/api/client'
import type { Command } from '@/project/command'
import { edit } from '@/project/connection'
import { openDialog } from '@/project/dialogs'
import { inOrder } from '@/project/ordering'
import { now } from '@/project/session'
import { TICKS } from '@/project/times'
import { askForFiles } from '@/ui/files'
import { chosenSong, useChosenSong } from './chosen-song'
import { addMusic, MUSIC_FILES } from './listening'

const at = 'sound' as const

const song = () => now().document.songs?.[chosenSong() ?? '']
const sound = () => now().document.sounds?.[song()?.sound ?? '']
const some = () => song() !== undefined
const withBeats = () => Boolean(sound()?.beats)

export const ADD_MUSIC: Command = {
  id: 'add-music',
  label: 'Add music…',
  words: 'import song sound file',
  at,
  run: () => void askForFiles({ accept: MUSIC_FILES }).then(addMusic),
}
export const MAKE_MUSIC: Command = { id: 'dialog-make-music', label: 'Make music…', words: 'song compose', at, run: () => openDialog('make-music') }
export const CUT_ON_BEATS: Command = {
  id: 'dialog-cut-on-beats',
  label: 'Cut on beats…',
  words: 'rhythm holds music',
  at,
  possible: () => now().timeline.spans.length > 0 && Object.values(now().document.songs ?? {}).some((s) => now().document.sounds?.[s.sound]?.beats?.times.length),
  run: () => openDialog('cut-on-beats'),
}
export const FILM_TO_MUSIC: Command = {
  id: 'film-to-music',
  label: 'Film to music: it ends with the music',
  short: 'Film to music',
  words: 'fit',
  possible: some,
  run: () => void edit({ edit: 'fit_film' }),
}
export const MUSIC_TO_FILM: Command = {
  id: 'music-to-film',
  label: 'Music to film: it ends with the film',
  short: 'Music to film',
  words: 'fit trim',
  possible: some,
  run: () => void edit({ edit: 'fit_music' }),
}

const set = (id: string, label: string, partial: Record<string, unknown>, possible: () => boolean): Command => ({
  id,
  label,
  words: 'music',
  at,
  possible,
  run: () => void edit({ edit: 'set_songs', ids: [chosenSong() ?? ''], song: partial }),
})

const order = () => inOrder(now().document.songs).map(([id]) => id)
const place = () => order().indexOf(chosenSong() ?? '')

const move = (way: -1 | 1): Command => ({
  id: way < 0 ? 'song-earlier' : 'song-later',
  label: `Move the song ${way < 0 ? 'before the one before it' : 'after the one after it'}`,
  short: way < 0 ? 'Earlier' : 'Later',
  words: 'music order',
  at,
  possible: () => place() >= 0 && order()[place() + way] !== undefined,
  run: () => void edit({ edit: 'move_songs', ids: [chosenSong() ?? ''], before: (way < 0 ? order()[place() - 1] : order()[place() + 2]) ?? null }),
})

export const SONG_EARLIER = move(-1)
export const SONG_LATER = move(1)
export const REMOVE_SONG: Command = {
  id: 'remove-song',
  label: 'Take the song out',
  words: 'delete music',
  at,
  possible: some,
  run: () => void edit({ edit: 'remove_songs', ids: [chosenSong() ?? ''] }),
}
export const NO_POINTS = set('song-no-points', 'Level of the song without points', { points: {} }, () => Object.keys(song()?.points ?? {}).length > 0)
export const OWN_LENGTH = set('song-own-length', 'As long as the song is', { length: null }, () => song()?.length != null)

/** The playhead in the chosen song's sound, in ticks; null while the song's place is not known. */
export function beatHere(): number | null {
  const { start } = useChosenSong.getState()
  return start === null ? null : (song()?.trim_start ?? 0) + Math.round(now().playhead) - start
}

type Change = Pick<EditOf<'change_beats'>, 'how'> & Partial<EditOf<'change_beats'>>

const beats = (id: string, short: string, label: string, possible: () => boolean, change: () => Change): Command => ({
  id: `beats-${id}`,
  label,
  short,
  words: 'rhythm tempo music',
  at,
  possible,
  run: () => void edit({ edit: 'change_beats', sound: song()?.sound ?? '', ...change() }),
})

const beatInSound = () => some() && (beatHere() ?? -1) >= 0

export const TAP = beats('tap', 'Tap', 'Tap a beat where the playhead is', beatInSound, () => ({ how: 'add', at: beatHere() ?? 0 }))

/** What corrects the beats that were found. */
export const BEATS: Command[] = [
  beats('half', 'Half', 'Half as many beats', withBeats, () => ({ how: 'half' })),
  beats('double', 'Double', 'Twice as many beats', withBeats, () => ({ how: 'double' })),
  beats('earlier', 'Earlier', 'All beats a hundredth of a second earlier', withBeats, () => ({ how: 'shift', by: -TICKS / 100 })),
  beats('later', 'Later', 'All beats a hundredth of a second later', withBeats, () => ({ how: 'shift', by: TICKS / 100 })),
  beats('bars', 'Move bars', 'Bars begin one beat later', withBeats, () => ({ how: 'bars' })),
  TAP,
  beats(
    'remove',
    'Remove',
    'Remove the beat at the playhead',
    () => withBeats() && beatInSound(),
    () => ({ how: 'remove', at: beatHere() ?? 0 }),
  ),
]

export const soundCommands = (): Command[] => [
  ADD_MUSIC,
  MAKE_MUSIC,
  CUT_ON_BEATS,
  FILM_TO_MUSIC,
  MUSIC_TO_FILM,
  set('song-mute', 'Mute the song', { muted: true }, () => some() && !song()?.muted),
  set('song-unmute', 'Hear the song again', { muted: false }, () => Boolean(song()?.muted)),
  SONG_EARLIER,
  SONG_LATER,
  REMOVE_SONG,
  NO_POINTS,
  OWN_LENGTH,
  ...BEATS,
]
