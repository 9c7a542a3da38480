import { Shuffle } from 'lucide-react'
import { useState } from 'react'
import type { EditOf } from '@/api/client'
import { edit } from '@/project/connection'
import { newId } from '@/project/project'
import { Button } from '@/ui/button'

const WAYS = [
  ['order', 'As they came'],
  ['time', 'As they were taken'],
  ['shape', 'Where they suit best'],
] as const

/** All pictures dealt anew, in one press. */
export function Dealing() {
  const [seed, setSeed] = useState(1)
  const deal = (by: NonNullable<EditOf<'deal_pictures'>['by']>, number = 1) => void edit({ edit: 'deal_pictures', by, seed: number, id: newId() })
  return (
    <div role="group" aria-label="Arrange all" className="mt-4 flex flex-wrap items-center gap-2">
      <span className="mr-1 font-medium">Arrange all:</span>
      {WAYS.map(([by, name]) => (
        <Button key={by} className="!h-9 !rounded-full" onClick={() => deal(by)}>
          {name}
        </Button>
      ))}
      <Button
        className="!h-9 !rounded-full"
        onClick={() => {
          deal('chance', seed)
          setSeed((s) => (s % 9999) + 1)
        }}
      >
        <Shuffle size={15} /> Shuffled
      </Button>
    </div>
  )
}
