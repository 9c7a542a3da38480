import { Music as Note } from 'lucide-react'
import { useState } from 'react'
import { client, type MusicWish, settled, type SoundRecord } from '@/api/client'
import { addMusic, MUSIC_FILES, useComing } from '@/features/sound'
import { control } from '@/project/controls'
import { edit } from '@/project/connection'
import { inOrder } from '@/project/ordering'
import { newId, useProject } from '@/project/project'
import { toSeconds } from '@/project/times'
import { Button } from '@/ui/button'
import { askForFiles } from '@/ui/files'
import { say } from '@/ui/notices'

const MOODS = [
  ['calm', 'Calm', 72],
  ['bright', 'Bright', 104],
  ['wondering', 'Wondering', 80],
  ['driving', 'Driving', 120],
] as const

/** The music of the film: a file of one's own, or a piece made to its length; and which of both gives way. */
export function Music() {
  const project = useProject((s) => s.id)
  const songs = useProject((s) => s.document.songs)
  const sounds = useProject((s) => s.document.sounds)
  const length = useProject((s) => s.timeline.length)
  const coming = useComing((s) => s.coming)
  const [busy, setBusy] = useState(false)
  const listed = inOrder(songs)
  const make = async (mood: string, tempo: number) => {
    setBusy(true)
    const { minimum, maximum } = control('music.seconds')
    const body = { mood, tempo, intensity: 0.4, seconds: Math.min(maximum, Math.max(minimum, Math.ceil(toSeconds(length)))), seed: 1 } as MusicWish
    try {
      const { record } = (await settled(client.POST('/api/projects/{project}/made-music', { params: { path: { project } }, body }))) as unknown as { record: SoundRecord }
      await edit(...listed.map(([id]) => ({ edit: 'remove_songs' as const, ids: [id] })), { edit: 'add_sounds', sounds: [{ ...record, id: newId() }] }, { edit: 'fit_music' })
    } catch (error) {
      say((error as Error).message, 'fault')
    }
    setBusy(false)
  }
  return (
    <>
      {listed.map(([id, song]) => (
        <p key={id} className="mb-2 flex items-center gap-2">
          <Note size={16} className="shrink-0 text-brass" /> <span className="min-w-0 flex-1 truncate">{sounds?.[song.sound]?.name || 'A song'}</span>
          <Button kind="link" onClick={() => void edit({ edit: 'remove_songs', ids: [id] })}>
            Take it out
          </Button>
        </p>
      ))}
      {listed.length > 0 && (
        <div className="mb-3 flex flex-wrap gap-2">
          <Button className="!h-11 flex-1" onClick={() => void edit({ edit: 'fit_music' })}>
            It ends with the film
          </Button>
          <Button className="!h-11 flex-1" onClick={() => void edit({ edit: 'fit_film' })}>
            The film ends with it
          </Button>
        </div>
      )}
      {coming.map((c) => (
        <p key={c.key} role="status" className="mb-2 truncate text-soft">
          {c.name}: {c.stage === 'sent' ? 'on its way' : 'being listened to'}…
        </p>
      ))}
      <Button className="!h-11 w-full" onClick={() => void askForFiles({ accept: MUSIC_FILES, many: false }).then(addMusic)}>
        Music of your own…
      </Button>
      <p className="mb-1.5 mt-3 text-soft">Or a piece made for the film, free to use:</p>
      <div className="grid grid-cols-2 gap-2">
        {MOODS.map(([mood, name, tempo]) => (
          <Button key={mood} className="!h-11" disabled={busy} onClick={() => void make(mood, tempo)}>
            {name}
          </Button>
        ))}
      </div>
      {busy && (
        <p role="status" className="mt-2 text-soft">
          It is being composed…
        </p>
      )}
    </>
  )
}
