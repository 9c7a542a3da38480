import { control } from '@/project/controls'
import { Dices } from 'lucide-react'
import { useState } from 'react'
import type { Edit } from '@/api/client'
import type { DialogProps } from '@/project/dialogs'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { TriedFrame } from '@/project/tried-frame'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { NumberField } from '@/ui/number'
import { loosePhotos } from './commands'

/** All layouts with the scene's own photos in them. */
export function LayoutPicker({ onClose }: DialogProps) {
  const scenes = useSession((s) => s.chosenScenes)
  const shown = scenes.at(-1) ?? ''
  const present = useProject((s) => s.document.scenes?.[shown]?.layout ?? null)
  const count = useProject(() => loosePhotos(shown))
  const [chosen, setChosen] = useState<string | null>(present?.kind ?? null)
  const [seed, setSeed] = useState(present?.seed ?? 1)
  const [gap, setGap] = useState(present?.gap ?? 0.02)
  const layouts = catalogue().layouts.filter((l) => count >= l.least && count <= l.most)
  const made = (kind: string): Edit => ({ edit: 'apply_layout', scenes, layout: { kind, seed, gap } })
  const put = async (kind: string) => {
    onClose()
    await edit(made(kind))
  }
  const seeded = layouts.some((l) => l.seeded && (l.id === chosen || !chosen))
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} wide title="Lay out the photos" description={`${count} photos. Each takes a place of about its shape; afterwards move any of them freely.`}>
      {count < 2 ? (
        <p className="text-soft">A layout needs two photos or more: add some to the scene first.</p>
      ) : (
        <ul aria-label="Layouts" className="grid max-h-[54vh] grid-cols-[repeat(auto-fill,minmax(215px,1fr))] gap-3 overflow-y-auto p-1">
          {layouts.map((l) => (
            <li key={l.id}>
              <button
                type="button"
                aria-pressed={chosen === l.id}
                onClick={() => setChosen(l.id)}
                onDoubleClick={() => void put(l.id)}
                className={`w-full rounded-xl p-1.5 text-left ${chosen === l.id ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}
              >
                <TriedFrame scene={shown} edits={[{ edit: 'apply_layout', scenes: [shown], layout: { kind: l.id, seed, gap } }]} alt="" />
                <span className="mt-1.5 block font-semibold">{l.label}</span>
                <span className="block text-[12px] leading-snug text-soft">{l.help}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="mt-4 flex items-center gap-4">
        <div className="w-60">
          <NumberField {...control('layout.gap')} value={gap} onSet={setGap} />
        </div>
        <Button disabled={!seeded} title="Other tilts and places; the same number always gives the same" onClick={() => setSeed((s) => (s % 9999) + 1)}>
          <Dices size={15} /> Vary ({seed})
        </Button>
        <span className="flex-1" />
        <Button kind="strong" disabled={!chosen || count < 2} onClick={() => chosen && void put(chosen)}>
          Use this layout
        </Button>
      </div>
    </Dialog>
  )
}
