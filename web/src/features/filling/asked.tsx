import type { Edit } from '@/api/client'
import { Button } from '@/ui/button'
import { DialAnswer } from './dial-answer'
import { Length } from './length'
import { Music } from './music'
import type { Question } from './questions'
import { Name, Words } from './words'

type Props = { question: Question; number: number; total: number; scene: string; onTry: (edits: Edit[]) => void; onBefore?: () => void; onNext?: () => void }

/** One question, with what answers it. */
export function Asked({ question, number, total, onTry, onBefore, onNext }: Props) {
  const help = { name: 'It is what the file is called, too.', words: '', dial: '', music: '', length: '', order: 'Choose a scene below the picture; then show it earlier or later, or leave it out.' }[
    question.kind
  ]
  const said = (question.kind === 'words' ? question.zone.help : question.kind === 'dial' ? question.dial.dial.help : '') || help
  return (
    <div className="rounded-2xl border hairline bg-card p-4">
      <p className="text-[12.5px] text-soft">
        {number} of {total}
      </p>
      <h1 className="font-heading text-[21px] font-semibold">{question.title}</h1>
      {said && <p className="mt-0.5 text-soft">{said}</p>}
      <div className="mt-3">
        {question.kind === 'name' && <Name onTry={onTry} onDone={onNext} />}
        {question.kind === 'words' && <Words zone={question.zone} onTry={onTry} onDone={onNext} />}
        {question.kind === 'dial' && <DialAnswer dial={question.dial} onTry={onTry} />}
        {question.kind === 'music' && <Music />}
        {question.kind === 'length' && <Length />}
      </div>
      <div className="mt-4 flex justify-between gap-2">
        <Button className="!h-11 !px-4" disabled={!onBefore} onClick={onBefore}>
          Before
        </Button>
        <Button className="!h-11 !px-5" disabled={!onNext} onClick={onNext}>
          Next
        </Button>
      </div>
    </div>
  )
}
