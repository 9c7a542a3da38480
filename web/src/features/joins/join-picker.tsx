import { control } from '@/project/controls'
import { Check } from 'lucide-react'
import { useState } from 'react'
import type { Edit } from '@/api/client'
import { Parameters } from '@/features/parameters'
import { fits } from '@/features/pictures'
import type { Values } from '@/project/common'
import type { DialogProps } from '@/project/dialogs'
import { inOrder } from '@/project/ordering'
import { Running } from '@/project/running'
import { useApplied } from '@/project/applied'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { toSeconds, toTicks } from '@/project/times'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { NumberField } from '@/ui/number'
import { type JoinPlace, useJoinPicker } from './join-line'

/** Shares of the join's time that a tile runs through; a still one stands at the third. */
const SHOWN = [0.04, 0.25, 0.5, 0.7, 0.85, 0.97, 1]

const TITLES = { scene: 'Join', beginning: 'How the film begins', ending: 'How the film ends' }

/** The picker for the join that was asked for. */
export function JoinPicker({ onClose }: DialogProps) {
  const place = useJoinPicker((s) => s.place)
  return place && <Picker key={JSON.stringify(place)} place={place} onClose={onClose} />
}

/** All joins on one's own two scenes: seen before one is taken, for one, the chosen or all; or several, varied. */
function Picker({ place, onClose }: { place: JoinPlace; onClose: () => void }) {
  const scenes = useProject((s) => s.document.scenes)
  const chosen = useSession((s) => s.chosenScenes)
  const applied = useApplied()
  const ends = useProject((s) => s.document.ends)
  const order = inOrder(scenes).map(([k]) => k)
  const own = place.at === 'scene' ? scenes?.[place.scene]?.join : ends?.[place.at]
  const present = place.at === 'scene' ? applied(place.scene).join : own
  const [words, setWords] = useState('')
  const [family, setFamily] = useState('all')
  const [kind, setKind] = useState<string>(present?.kind ?? 'dissolve')
  const [settings, setSettings] = useState<Values>({ ...present })
  const [length, setLength] = useState(present?.length ?? toTicks(1))
  const [keeps, setKeeps] = useState(true)
  const [reach, setReach] = useState('one')
  const [several, setSeveral] = useState<string[]>([])
  const [seed, setSeed] = useState(1)
  const many = place.at === 'scene'
  const varied = many && reach === 'varied'
  const here = place.at === 'scene' ? place.scene : place.at === 'beginning' ? (order[0] ?? '') : (order.at(-1) ?? '')
  const which = place.at === 'ending' ? 'end' : 'join'
  const spec = catalogue().joins.find((j) => j.id === kind)
  const found = catalogue().joins.filter((j) => (family === 'all' || j.family === family) && fits(words, j.label, `${j.help} ${j.words}`))
  const joins = chosen.filter((k) => k !== order[0])
  const ids = reach === 'one' || !many ? [here] : reach === 'chosen' ? joins : varied && joins.length > 1 ? joins : order.slice(1)

  const made = (id: string, values: Values, to: string[]): Edit => {
    const j = catalogue().joins.find((x) => x.id === id)
    const join = { ...values, kind: id, ...(j?.instant ? {} : { length: keeps ? length : j?.length }) }
    return place.at === 'scene' ? { edit: 'set_scenes', ids: to, join } : { edit: 'set_ends', [place.at]: join }
  }
  const settingsOf = (id: string): Values => (id === kind ? settings : { ...settings, ...catalogue().joins.find((j) => j.id === id)?.preset })
  const take = (id: string) => {
    setSettings(settingsOf(id))
    setKind(id)
    if (varied) setSeveral(several.includes(id) ? several.filter((s) => s !== id) : [...several, id])
  }
  const use = async () => {
    onClose()
    await edit(varied ? { edit: 'vary_joins', ids, kinds: several, seed, length: keeps ? length : null } : made(kind, settings, ids))
  }
  const back = async () => {
    onClose()
    await edit(place.at === 'scene' ? { edit: 'set_scenes', ids, join: null } : { edit: 'set_ends', [place.at]: null })
  }
  const parameters = catalogue().join_settings.filter((p) => spec?.uses.includes(p.id) || (!many && p.id === 'colour'))
  const reaches = [['one', 'This one'], ...(joins.length > 1 ? [['chosen', `The ${joins.length} chosen`]] : []), ['all', 'All'], ['varied', 'Varied']] as [string, string][]
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      wide
      title={TITLES[place.at]}
      description={many ? 'What happens between these two scenes. Point at a join to see it run on them.' : 'Out of a colour, or into one. Point at a join to see it run.'}
    >
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <input aria-label="Find a join" placeholder="Find by word" value={words} onChange={(e) => setWords(e.target.value)} className="h-8 w-40 rounded-lg border hairline bg-card px-2.5" />
        <Choice label="Kind" value={family} choices={[['all', 'All'], ...catalogue().join_families]} onSet={setFamily} />
      </div>
      <div className="grid grid-cols-[1fr_236px] gap-4">
        <ul aria-label="Joins" className="grid max-h-[52vh] grid-cols-[repeat(auto-fill,minmax(146px,1fr))] content-start gap-2 overflow-y-auto p-1">
          {found.map((j) => {
            const on = varied ? several.includes(j.id) : kind === j.id
            return (
              <li key={j.id}>
                <button
                  type="button"
                  aria-pressed={on}
                  title={j.help}
                  onClick={() => take(j.id)}
                  onDoubleClick={() => !varied && void use()}
                  className={`w-full rounded-xl p-1.5 text-left ${on ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}
                >
                  <Running scene={here} edits={[made(j.id, settingsOf(j.id), [here])]} shares={SHOWN} which={which} on={!varied && on} />
                  <span className="mt-1 flex items-center gap-1 font-medium">
                    {varied && on && <Check size={13} className="text-brass" />} {j.label}
                  </span>
                </button>
              </li>
            )
          })}
          {!found.length && <li className="col-span-full text-soft">No join goes by these words.</li>}
        </ul>
        <div className="min-w-0">
          {varied ? (
            <>
              <p className="mb-2 text-[12.5px] text-soft">Tick the joins to draw from. No two alike follow one another; directions are drawn too.</p>
              <NumberField {...control('join.seed')} value={seed} slider={false} onSet={setSeed} />
            </>
          ) : (
            <>
              <p className="mb-1 font-heading text-[15px] font-semibold">{spec?.label}</p>
              <p className="mb-2 text-[12.5px] text-soft">{spec?.help}</p>
              <Parameters parameters={parameters} values={settings} onTry={() => undefined} onSet={(partial) => setSettings({ ...settings, ...partial })} onGiveUp={() => undefined} />
            </>
          )}
          {(varied || !spec?.instant) && (
            <>
              <label className="mt-2 flex items-center gap-2">
                <input type="checkbox" checked={!keeps} onChange={(e) => setKeeps(!e.target.checked)} />{' '}
                {varied ? 'Each takes its own length' : `As long as it likes (${toSeconds(spec?.length ?? 0).toFixed(1)} s)`}
              </label>
              {keeps && <NumberField {...control('join.length')} value={length} onSet={setLength} />}
            </>
          )}
        </div>
      </div>
      <div className="mt-4 flex items-center gap-4 border-t hairline pt-3">
        {many && <Choice label="For" value={reach} choices={reaches} onSet={setReach} />}
        <span className="flex-1" />
        {own && (
          <Button kind="link" onClick={() => void back()}>
            {many ? 'Back to the default' : 'At once, without a join'}
          </Button>
        )}
        <Button kind="strong" disabled={varied && !several.length} onClick={() => void use()}>
          {many && ids.length > 1 ? `Use for ${ids.length} joins` : 'Use it'}
        </Button>
      </div>
    </Dialog>
  )
}
