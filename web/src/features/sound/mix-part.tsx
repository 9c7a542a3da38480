import { control } from '@/project/controls'
import { Part } from '@/ui/part'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { NumberField } from '@/ui/number'

/** Levels of the whole film. */
export function MixPart() {
  const mix = useProject((s) => s.document.mix)
  if (!mix) return null
  const set = (partial: Record<string, unknown>) => void edit({ edit: 'set_mix', mix: partial })
  return (
    <>
      <Part title="Balance">
        <NumberField {...control('mix.music')} value={mix.music ?? 0} onSet={(music) => set({ music })} />
        <NumberField {...control('mix.clips')} value={mix.clips ?? 0} onSet={(clips) => set({ clips })} />
        <label className="flex h-[27px] items-center gap-2" title="Every source is brought to one loudness before its own level">
          <input type="checkbox" checked={mix.even ?? true} onChange={(e) => set({ even: e.target.checked })} /> Even loudness of sources
        </label>
      </Part>
      <Part title="Under clip sound">
        <NumberField {...control('mix.step_down')} value={mix.step_down ?? 0} onSet={(step_down) => set({ step_down })} />
        <NumberField {...control('mix.step_in')} value={mix.step_in ?? 0} onSet={(step_in) => set({ step_in })} />
        <NumberField {...control('mix.step_out')} value={mix.step_out ?? 0} onSet={(step_out) => set({ step_out })} />
      </Part>
      <Part title="In the export">
        <NumberField {...control('mix.target')} value={mix.target ?? -16} onSet={(target) => set({ target })} />
        <NumberField {...control('mix.ceiling')} value={mix.ceiling ?? -1} onSet={(ceiling) => set({ ceiling })} />
      </Part>
    </>
  )
}
