import { control } from '@/project/controls'
import type { Media } from '@/api/client'
import { edit } from '@/project/connection'
import { TICKS, toSeconds } from '@/project/times'
import { NumberField } from '@/ui/number'

/** What is left of a clip at least: a frame or two. */
const LEAST = TICKS / 20

/** A clip's trim, poster and what it does at its end. */
export function ClipFields({ id, clip }: { id: string; clip: NonNullable<Media['clip']> }) {
  const set = (partial: Record<string, unknown>) => void edit({ edit: 'set_pictures', ids: [id], clip: partial })
  const end = clip.end ?? clip.length
  return (
    <div className="border-t hairline pt-2.5">
      <p className="mb-1 font-medium">
        Clip of {toSeconds(clip.length).toFixed(2)} s, {clip.frames} frames
      </p>
      <NumberField {...control('clip.start')} value={clip.start ?? 0} maximum={end - LEAST} usual={[0, clip.length]} onSet={(start) => set({ start })} />
      <NumberField {...control('clip.end')} value={end} minimum={(clip.start ?? 0) + LEAST} maximum={clip.length} usual={[0, clip.length]} onSet={(v) => set({ end: v })} />
      <NumberField {...control('clip.poster')} value={clip.poster ?? 0} maximum={clip.length} usual={[0, clip.length]} onSet={(poster) => set({ poster })} />
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
