import { Part } from '@/features/details/parts'
import { edit, useProject } from '@/project/store'
import { toSeconds, toTicks } from '@/project/times'
import { NumberField } from '@/ui/number'

/** Levels of the whole film. */
export function MixPart() {
  const mix = useProject((s) => s.document.mix)
  if (!mix) return null
  const set = (partial: Record<string, unknown>) => void edit({ edit: 'set_mix', mix: partial })
  return (
    <>
      <Part title="Balance">
        <NumberField label="Music" value={mix.music ?? 0} minimum={-60} maximum={24} usual={[-30, 6]} step={0.5} unit="dB" onSet={(music) => set({ music })} />
        <NumberField label="Clips" value={mix.clips ?? 0} minimum={-60} maximum={24} usual={[-30, 6]} step={0.5} unit="dB" onSet={(clips) => set({ clips })} />
        <label className="flex h-[27px] items-center gap-2" title="Every source is brought to one loudness before its own level">
          <input type="checkbox" checked={mix.even ?? true} onChange={(e) => set({ even: e.target.checked })} /> Even loudness of sources
        </label>
      </Part>
      <Part title="Under clip sound">
        <NumberField label="Step down" help="How far music goes down while a clip is heard" value={mix.step_down ?? 0} minimum={0} maximum={60} usual={[0, 30]} step={0.5} unit="dB" onSet={(step_down) => set({ step_down })} />
        <NumberField label="Down over" value={toSeconds(mix.step_in ?? 0)} minimum={0} maximum={10} usual={[0, 3]} step={0.1} unit="s" onSet={(v) => set({ step_in: toTicks(v) })} />
        <NumberField label="Up over" value={toSeconds(mix.step_out ?? 0)} minimum={0} maximum={10} usual={[0, 3]} step={0.1} unit="s" onSet={(v) => set({ step_out: toTicks(v) })} />
      </Part>
      <Part title="In the export">
        <NumberField label="Loudness" help="Of the whole film, in LUFS (ITU-R BS.1770)" value={mix.target ?? -16} minimum={-40} maximum={-5} usual={[-30, -10]} step={0.5} unit=" LUFS" onSet={(target) => set({ target })} />
        <NumberField label="Ceiling" help="No true peak goes beyond" value={mix.ceiling ?? -1} minimum={-20} maximum={0} usual={[-6, 0]} step={0.1} unit=" dBTP" onSet={(ceiling) => set({ ceiling })} />
      </Part>
    </>
  )
}
