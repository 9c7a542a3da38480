import { Popover } from 'radix-ui'
import type { Join } from '@/api/client'
import { catalogue, edit, useProject } from '@/project/store'
import { toSeconds, toTicks } from '@/project/times'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { NumberField } from '@/ui/number'

/** Scenes a change of this one's join reaches: all chosen ones if it is chosen. */
const reached = (scene: string): string[] => {
  const { chosenScenes } = useProject.getState()
  return chosenScenes.includes(scene) ? chosenScenes : [scene]
}

/** The join into a scene, between two rows: what it is, and a small panel to change it. */
export function JoinButton({ scene, own }: { scene: string; own: Join | null }) {
  const inherited = useProject((s) => s.document.defaults?.join)
  const join = own ?? inherited
  const spec = catalogue().joins.find((j) => j.id === join?.kind)
  const length = join?.length ?? 0
  const set = (partial: Partial<Join>) => void edit({ edit: 'set_scenes', ids: reached(scene), join: partial })
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button type="button" className="my-0.5 flex w-full items-center gap-2 rounded px-8 text-[11.5px] text-lichen">
          <span className="flex-1 border-t border-dashed border-rule" />
          <span className="font-mono">
            <span className="sr-only">Join: </span>
            {spec?.label.toLowerCase()} {spec?.instant ? '' : `${toSeconds(length).toFixed(1)}s`}
          </span>
          <span className="flex-1 border-t border-dashed border-rule" />
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content side="right" sideOffset={6} aria-label="Join between these scenes" className="z-40 w-72 rounded-xl border hairline bg-card p-4 text-ink shadow-xl">
          <p className="mb-2 font-heading text-[15px] font-semibold">Join</p>
          <Choice label="Kind of join" value={join?.kind ?? ''} choices={catalogue().joins.map((j) => [j.id, j.label] as const)} onSet={(kind) => set({ kind, ...(!catalogue().joins.find((j) => j.id === kind)?.instant && !length ? { length: toTicks(1) } : {}) })} />
          <p className="my-2 text-[12px] text-soft">{spec?.help}</p>
          {!spec?.instant && <NumberField label="Length" value={toSeconds(length)} minimum={0.1} maximum={10} step={0.1} unit="s" onSet={(v) => set({ length: toTicks(v) })} />}
          <p className="mt-3 flex items-center justify-between text-[12px] text-soft">
            {own ? 'Own for this join' : 'As the project default says'}
            {own && (
              <Button kind="link" onClick={() => void edit({ edit: 'set_scenes', ids: reached(scene), join: null })}>
                Back to the default
              </Button>
            )}
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
