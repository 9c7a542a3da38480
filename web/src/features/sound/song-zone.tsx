import { edit } from '@/project/connection'
import { inOrder } from '@/project/ordering'
import { useProject } from '@/project/project'
import { Button } from '@/ui/button'

/** The drop zone of a template that a song is in, or those that it could go into. */
export function SongZone({ id }: { id: string }) {
  const songs = useProject((s) => s.document.songs)
  const scenes = useProject((s) => s.document.scenes)
  const templates = useProject((s) => s.document.templates)
  const song = songs?.[id]
  if (!song) return null
  // A use of a template by the first of its scenes.
  const uses = new Map<string, [string, string]>()
  for (const [key, s] of inOrder(scenes)) if (s.template && !uses.has(s.template.use)) uses.set(s.template.use, [key, s.template.template])
  const named = (template: string, zone: string) => `“${templates?.[template]?.zones?.[zone]?.name || 'Song'}” of “${templates?.[template]?.name}”`
  const [, held] = uses.get(song.zone?.use ?? '') ?? []
  if (song.zone && held)
    return (
      <p className="mt-1 text-[12px] text-soft">
        In {named(held, song.zone.zone)}.{' '}
        <button type="button" className="text-tarn hover:underline" onClick={() => void edit({ edit: 'set_songs', ids: [id], song: { zone: null } })}>
          take it out
        </button>
      </p>
    )
  const taken = new Set(Object.values(songs ?? {}).map((s) => s.zone && `${s.zone.use} ${s.zone.zone}`))
  const free = [...uses].flatMap(([use, [scene, template]]) =>
    inOrder(templates?.[template]?.zones).flatMap(([zone, z]) =>
      z.takes === 'song' && templates?.[template]?.origin && !taken.has(`${use} ${zone}`) ? [{ scene, zone, name: named(template, zone) }] : [],
    ),
  )
  return free.map(({ scene, zone, name }) => (
    <Button
      key={`${scene} ${zone}`}
      size="small"
      className="mt-1.5 w-full"
      onClick={() => void edit({ edit: 'fill_zones', scene, fills: { [zone]: song.sound } }, { edit: 'remove_songs', ids: [id] })}
    >
      <span className="truncate">Use it for {name}</span>
    </Button>
  ))
}
