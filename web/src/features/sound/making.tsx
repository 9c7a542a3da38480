import { control } from '@/project/controls'
import { Pause, Play } from 'lucide-react'
import { useState } from 'react'
import { client, type MusicWish, settled, type SoundRecord } from '@/api/client'
import type { DialogProps } from '@/project/dialogs'
import { edit } from '@/project/connection'
import { newId, useProject } from '@/project/project'
import { toSeconds } from '@/project/times'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { say } from '@/ui/notices'
import { NumberField } from '@/ui/number'
import { useSample } from './sample'

const MOODS = [
  ['calm', 'Calm'],
  ['bright', 'Bright'],
  ['wondering', 'Wondering'],
  ['driving', 'Driving'],
] as const
const PACES = [
  ['66', 'Slow'],
  ['84', 'Walking'],
  ['104', 'Lively'],
  ['126', 'Fast'],
] as const

/** A piece made to length by the synthesis that ships with Oak Lens: free to use, its beats known exactly. */
export function MakeMusic({ onClose }: DialogProps) {
  const project = useProject((s) => s.id)
  const length = useProject((s) => s.timeline.length)
  const [mood, setMood] = useState<string>('calm')
  const [tempo, setTempo] = useState(84)
  const [intensity, setIntensity] = useState(0.4)
  const [seconds, setSeconds] = useState(() => Math.min(control('music.seconds').maximum, Math.max(control('music.seconds').minimum, toSeconds(length) || 60)))
  const [seed, setSeed] = useState(1)
  const [busy, setBusy] = useState(false)
  const body = { mood, tempo, intensity, seconds, seed } as MusicWish
  const sample = useSample(project, body)
  const make = async () => {
    sample.stop()
    setBusy(true)
    try {
      const { record } = (await settled(client.POST('/api/projects/{project}/made-music', { params: { path: { project } }, body }))) as unknown as { record: SoundRecord }
      await edit({ edit: 'add_sounds', sounds: [{ ...record, id: newId() }] })
      onClose()
    } catch (error) {
      say((error as Error).message, 'fault')
      setBusy(false)
    }
  }
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && !busy && onClose()}
      title="Make music"
      description="A piece to length from mood, pace and intensity. It is yours to use for anything, and its beats are known exactly."
    >
      <p className="mb-1 text-[12px] text-soft">Mood</p>
      <Choice label="Mood" value={mood} choices={MOODS} onSet={setMood} />
      <p className="mb-1 mt-3 text-[12px] text-soft">Pace</p>
      <Choice label="Pace" value={String(tempo)} choices={PACES} onSet={(v) => setTempo(Number(v))} />
      <div className="mt-3 space-y-1">
        <NumberField {...control('music.tempo')} value={tempo} onSet={setTempo} />
        <NumberField {...control('music.intensity')} value={intensity} onSet={setIntensity} />
        <NumberField {...control('music.seconds')} value={seconds} onSet={setSeconds} />
        <NumberField {...control('music.seed')} value={seed} slider={false} onSet={setSeed} />
      </div>
      <div className="mt-5 flex items-center justify-between gap-3">
        <Button disabled={busy || sample.state === 'waiting'} title="How it begins, before it is taken" onClick={sample.state === 'playing' ? sample.stop : sample.play}>
          {sample.state === 'playing' ? <Pause size={14} /> : <Play size={14} />} {sample.state === 'waiting' ? 'Composing…' : sample.state === 'playing' ? 'Stop' : 'Hear how it begins'}
        </Button>
        <Button kind="strong" disabled={busy} onClick={() => void make()}>
          {busy ? 'Making it…' : 'Make it'}
        </Button>
      </div>
    </Dialog>
  )
}
