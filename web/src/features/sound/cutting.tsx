import { control } from '@/project/controls'
import { useState } from 'react'
import { TICKS } from '@/project/times'
import type { DialogProps } from '@/project/dialogs'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { NumberField } from '@/ui/number'
import { useHeard } from './heard'

/** Holds so that every boundary falls on a beat or a bar. */
export function CutOnBeats({ onClose }: DialogProps) {
  const heard = useHeard()
  const chosen = useSession((s) => s.chosenScenes)
  const scenes = useProject((s) => Object.keys(s.document.scenes ?? {}).length)
  const [on, setOn] = useState<'beat' | 'bar'>('beat')
  const [way, setWay] = useState('near')
  const [every, setEvery] = useState(4)
  const [shortest, setShortest] = useState(TICKS / 2)
  const [reach, setReach] = useState('all')
  const use = async () => {
    onClose()
    await edit({ edit: 'cut_on_beats', ids: reach === 'all' ? null : chosen, on, every: way === 'near' ? null : every, shortest })
  }
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Cut on beats" description="Holds are changed so that one scene gives way to the next on a beat: the middle of each join lies there.">
      <div className="space-y-3">
        <Choice
          label="On"
          value={on}
          choices={[
            ['beat', `Beats (${heard.beats.length})`],
            ['bar', `Bars (${heard.bars.length})`],
          ]}
          onSet={setOn}
        />
        <div>
          <Choice
            label="Length"
            value={way}
            choices={[
              ['near', 'Near the length each has'],
              ['every', 'All alike'],
            ]}
            onSet={setWay}
          />
        </div>
        {way === 'every' && <NumberField {...control('cut.every')} label={on === 'bar' ? 'Bars a scene' : 'Beats a scene'} value={every} onSet={setEvery} />}
        <NumberField {...control('cut.shortest')} value={shortest} onSet={setShortest} />
        {chosen.length > 1 && (
          <Choice
            label="For"
            value={reach}
            choices={[
              ['all', `All ${scenes} scenes`],
              ['chosen', `The ${chosen.length} chosen`],
            ]}
            onSet={setReach}
          />
        )}
      </div>
      <div className="mt-5 flex justify-end">
        <Button kind="strong" onClick={() => void use()}>
          Cut on {on}s
        </Button>
      </div>
    </Dialog>
  )
}
