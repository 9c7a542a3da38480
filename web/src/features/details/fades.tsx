import { control } from '@/project/controls'
import type { Edit, Scene } from '@/api/client'
import { edit } from '@/project/connection'
import { ColourField } from '@/ui/colour'
import { NumberField } from '@/ui/number'
import { common } from '@/project/common'

const ENDS = [
  ['fade_in', 'Fade in', 'From a colour, from when the scene comes on screen'],
  ['fade_out', 'Fade out', 'Into a colour, until the scene leaves'],
] as const

/** How scenes fade from and to colours; no time at all is no fade. */
export function Fades({ scenes, onScenes }: { scenes: Scene[]; onScenes: (partial: Record<string, unknown>) => Edit }) {
  return ENDS.map(([name, label, help]) => {
    const length = common(scenes.map((s) => s[name]?.length ?? 0))
    const colour = common(scenes.map((s) => s[name]?.colour ?? null))
    return (
      <div key={name}>
        <NumberField {...control('fade.length')} label={label} help={help} value={length} onSet={(v) => void edit(onScenes({ [name]: v > 0 ? { length: v } : null }))} />
        {length !== 0 && <ColourField label={`${label === 'Fade in' ? 'From' : 'To'} colour`} value={colour} onSet={(v) => void edit(onScenes({ [name]: { colour: v } }))} />}
      </div>
    )
  })
}
