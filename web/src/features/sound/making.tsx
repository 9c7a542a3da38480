import { useState } from 'react'
import { client, type MusicWish, settled, type SoundRecord } from '@/api/client'
import { edit, newId, useProject } from '@/project/store'
import { toSeconds } from '@/project/times'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { say } from '@/ui/notices'
import { NumberField } from '@/ui/number'

const MOODS = [['calm', 'Calm'], ['bright', 'Bright'], ['wondering', 'Wondering'], ['driving', 'Driving']] as const
const PACES = [['66', 'Slow'], ['84', 'Walking'], ['104', 'Lively'], ['126', 'Fast']] as const

/** A piece made to length by the synthesis that ships with Oak Lens: free to use, its beats known exactly. */
export function MakeMusic({ onClose }: { onClose: () => void }) {
  const project = useProject((s) => s.id)
  const length = useProject((s) => s.timeline.length)
  const [mood, setMood] = useState<string>('calm')
  const [tempo, setTempo] = useState(84)
  const [intensity, setIntensity] = useState(0.4)
  const [seconds, setSeconds] = useState(Math.min(900, Math.max(8, Math.round(toSeconds(length) || 60))))
  const [seed, setSeed] = useState(1)
  const [busy, setBusy] = useState(false)
  const make = async () => {
    setBusy(true)
    try {
      const body = { mood, tempo, intensity, seconds, seed } as MusicWish
      const { record } = (await settled(client.POST('/api/projects/{project}/made-music', { params: { path: { project } }, body }))) as unknown as { record: SoundRecord }
      await edit({ edit: 'add_sounds', sounds: [{ ...record, id: newId() }] })
      onClose()
    } catch (error) {
      say((error as Error).message, 'fault')
      setBusy(false)
    }
  }
  return (
    <Dialog open onOpenChange={(o) => !o && !busy && onClose()} title="Make music" description="A piece to length from mood, pace and intensity. It is yours to use for anything, and its beats are known exactly.">
      <p className="mb-1 text-[12px] text-soft">Mood</p>
      <Choice label="Mood" value={mood} choices={MOODS} onSet={setMood} />
      <p className="mb-1 mt-3 text-[12px] text-soft">Pace</p>
      <Choice label="Pace" value={String(tempo)} choices={PACES} onSet={(v) => setTempo(Number(v))} />
      <div className="mt-3 space-y-1">
        <NumberField label="Beats a minute" value={tempo} minimum={50} maximum={170} step={1} onSet={setTempo} />
        <NumberField label="Intensity" value={intensity} minimum={0} maximum={1} step={1} unit="%" scale={0.01} onSet={setIntensity} />
        <NumberField label="Length" help="Whole bars that come nearest" value={seconds} minimum={4} maximum={900} usual={[10, 240]} step={1} unit="s" onSet={setSeconds} />
        <NumberField label="Seed" help="Another seed, another piece" value={seed} minimum={1} maximum={9999} step={1} slider={false} onSet={(v) => setSeed(Math.round(v))} />
      </div>
      <div className="mt-5 flex justify-end">
        <Button kind="strong" disabled={busy} onClick={() => void make()}>
          {busy ? 'Making it…' : 'Make it'}
        </Button>
      </div>
    </Dialog>
  )
}
