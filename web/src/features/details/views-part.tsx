import { control } from '@/project/controls'
import { ArrowLeftRight, Equal, Sparkles } from 'lucide-react'
import { useState } from 'react'
import type { EditOf, View } from '@/api/client'
import type { PartProps } from '@/project/chosen'
import { common, commonFields, type Values } from '@/project/common'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { lookAt, tryEdits } from '@/project/session'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { NumberField } from '@/ui/number'
import { Part, PartAction } from '@/ui/part'
import { Row } from '@/ui/row'

const VIEW = ['x', 'y', 'zoom', 'turn'] as const

/** Opening and closing view of photos, by numbers. */
export function Views({ chosen: { photos: layers, photoRefs: photos } }: PartProps) {
  const [seed, setSeed] = useState(0)
  const [which, setWhich] = useState<'opening' | 'closing'>('opening')
  const views = commonFields(layers.map((l) => (l.view.keys[which]?.value ?? {}) as Values)) as Partial<View>
  const arrange = (how: EditOf<'arrange_views'>['how'], from = 0) => void edit({ edit: 'arrange_views', photos, how, seed: from })
  const eases = catalogue().eases
  const ease = common(
    layers.map((l) => {
      const [a, b] = [l.view.keys.opening, l.view.keys.closing]
      const found = eases.find((e) => Boolean(a?.hold) === e.hold && (e.hold || JSON.stringify([a?.ease_out, b?.ease_in]) === JSON.stringify([e.leave, e.arrive])))
      return found?.id ?? 'own'
    }),
  )
  return (
    <Part name="views" title="Views" source={<PartAction onPress={() => lookAt('views')}>set them on the picture</PartAction>}>
      <div className="mb-1.5 flex items-center justify-between">
        <Choice
          label="Which view"
          value={which}
          onSet={(v) => setWhich(v as typeof which)}
          choices={[
            [
              'opening',
              <span key="o" className="flex items-center gap-1.5">
                <span className="size-2 rounded-full bg-glow" /> Opening
              </span>,
            ],
            [
              'closing',
              <span key="c" className="flex items-center gap-1.5">
                <span className="size-2 rounded-full border-[1.5px] border-water" /> Closing
              </span>,
            ],
          ]}
        />
      </div>
      {VIEW.map((key) => (
        <NumberField
          key={`${which}${key}`}
          {...control(`view.${key}`)}
          value={views[key] ?? null}
          onTry={(v) => tryEdits([{ edit: 'set_views', photos, [which]: { [key]: v } }])}
          onSet={(v) => void edit({ edit: 'set_views', photos, [which]: { [key]: v } })}
          onGiveUp={() => tryEdits(null)}
        />
      ))}
      <Row label="Ease">
        <select
          aria-label="Ease from the opening to the closing view"
          value={ease ?? ''}
          onChange={(e) => {
            const spec = eases.find((x) => x.id === e.target.value)
            if (spec) void edit({ edit: 'set_views', photos, ease: { leave: spec.leave, arrive: spec.arrive, hold: spec.hold } })
          }}
          className="h-7 flex-1 rounded-lg border hairline bg-card px-2"
        >
          {ease === null && <option value="">—</option>}
          {eases.map((e) => (
            <option key={e.id} value={e.id}>
              {e.label}
            </option>
          ))}
          {ease === 'own' && <option value="own">Own curve</option>}
        </select>
      </Row>
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Button size="small" onClick={() => arrange('swap')}>
          <ArrowLeftRight size={13} /> Swap
        </Button>
        <Button size="small" title="The other view becomes like this one: no motion" onClick={() => arrange(which === 'opening' ? 'as_opening' : 'as_closing')}>
          <Equal size={13} /> Make equal
        </Button>
        <Button
          size="small"
          title="From the subject, at a like pace, unlike its neighbours; press again for others"
          onClick={() => {
            arrange('suggest', seed)
            setSeed(seed + 1)
          }}
        >
          <Sparkles size={13} /> Suggest
        </Button>
      </div>
    </Part>
  )
}
