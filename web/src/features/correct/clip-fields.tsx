import type { Media } from '@/api/client'
import { edit } from '@/project/store'
import { toSeconds, toTicks } from '@/project/times'
import { NumberField } from '@/ui/number'

/** A clip's trim, poster and what it does at its end. */
export function ClipFields({ id, clip }: { id: string; clip: NonNullable<Media['clip']> }) {
  const set = (partial: Record<string, unknown>) => void edit({ edit: 'set_pictures', ids: [id], clip: partial })
  const length = toSeconds(clip.length)
  const end = clip.end ?? clip.length
  return (
    <div className="border-t hairline pt-2.5">
      <p className="mb-1 font-medium">
        Clip of {length.toFixed(2)} s, {clip.frames} frames
      </p>
      <NumberField label="From" value={toSeconds(clip.start ?? 0)} minimum={0} maximum={Math.max(0, toSeconds(end) - 0.05)} step={0.01} unit="s" onSet={(v) => set({ start: toTicks(v) })} />
      <NumberField label="To" value={toSeconds(end)} minimum={toSeconds(clip.start ?? 0) + 0.05} maximum={length} step={0.01} unit="s" onSet={(v) => set({ end: Math.min(toTicks(v), clip.length) })} />
      <NumberField label="Poster" help="The moment it stands still on in the contact sheet" value={toSeconds(clip.poster ?? 0)} minimum={0} maximum={length} step={0.01} unit="s" onSet={(v) => set({ poster: toTicks(v) })} />
      <label className="flex h-7 items-center gap-2">
        <input type="checkbox" checked={clip.loop ?? true} onChange={(e) => set({ loop: e.target.checked })} /> Begins again at its end
      </label>
      {clip.sound && (
        <label className="flex h-7 items-center gap-2" title="Its sound is mixed into the exported film">
          <input type="checkbox" checked={!clip.muted} onChange={(e) => set({ muted: !e.target.checked })} /> Heard in the film
        </label>
      )}
    </div>
  )
}
