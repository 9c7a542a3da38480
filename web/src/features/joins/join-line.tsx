import { create } from 'zustand'
import type { Join } from '@/api/client'
import { useApplied } from '@/project/applied'
import { openDialog } from '@/project/dialogs'
import { catalogue } from '@/project/catalogue'
import { toSeconds } from '@/project/times'

/** Where a join stands: into a scene, into the first one out of nothing, or out of the last. */
export type JoinPlace = { at: 'scene'; scene: string } | { at: 'beginning' } | { at: 'ending' }

/** The join that is being chosen. */
export const useJoinPicker = create<{ place: JoinPlace | null }>()(() => ({ place: null }))

export function chooseJoin(place: JoinPlace): void {
  useJoinPicker.setState({ place })
  openDialog('join')
}

const NAMES = { beginning: 'begins', ending: 'ends' }

/** A join in the run sheet: what it is, how long, and the way to change it. */
export function JoinLine({ place, own, lasts }: { place: JoinPlace; own: Join | null; lasts: number }) {
  const applied = useApplied()
  const join = place.at === 'scene' ? applied(place.scene).join : own
  const spec = catalogue().joins.find((j) => j.id === join?.kind)
  const name = place.at === 'scene' ? '' : `${NAMES[place.at]} `
  const limited = spec && !spec.instant && (join?.length ?? 0) > lasts
  return (
    <button
      type="button"
      aria-haspopup="dialog"
      title={limited ? `Limited to ${toSeconds(lasts).toFixed(1)} s: a join is never longer than the hold of a scene it joins` : undefined}
      onClick={() => chooseJoin(place)}
      className="flex h-[23px] w-full items-center gap-2 rounded px-8 text-[11.5px] text-lichen"
    >
      <span className="flex-1 border-t border-dashed border-rule" />
      <span className="font-mono">
        <span className="sr-only">Join: </span>
        {name}
        {spec ? spec.label.toLowerCase() : 'at once'} {spec && !spec.instant ? `${toSeconds(lasts).toFixed(1)}s` : ''}
        {limited && <span className="text-rowan"> limited</span>}
      </span>
      <span className="flex-1 border-t border-dashed border-rule" />
    </button>
  )
}
