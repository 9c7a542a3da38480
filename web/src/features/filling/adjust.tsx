import { useEffect, useState } from 'react'
import type { Edit, Filling } from '@/api/client'
import { inOrder } from '@/project/ordering'
import { useProject } from '@/project/project'
import { Asked } from './asked'
import { Picture } from './picture'
import { type Question, questionsOf } from './questions'
import { Scenes } from './scenes'

/** The film as it stands, and one question at a time about it; what is pressed on the picture is asked about. */
export function Adjust({ filling }: { filling: Filling }) {
  const title = useProject((s) => s.document.title ?? '')
  const scenes = useProject((s) => s.document.scenes)
  const listed = inOrder(scenes).map(([id]) => id)
  const questions = questionsOf(filling, title)
  const [asked, setAsked] = useState('name')
  const [looked, setLooked] = useState<string | null>(null)
  const [tried, setTried] = useState<Edit[]>([])
  const at = Math.max(
    questions.findIndex((q) => q.id === asked),
    0,
  )
  const question = questions[at] as Question
  const scene = [looked, question.scene, ...listed].find((s) => s && listed.includes(s)) ?? ''
  const ask = (id: string | undefined, stay = false) => {
    if (!id) return
    setAsked(id)
    setTried([])
    if (!stay) setLooked(null)
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was tried is kept by now, or given up
  useEffect(() => setTried([]), [filling])
  if (!scene) return <p className="p-8 text-center text-soft">The film has no scene. Go back and choose a template.</p>
  return (
    <div className="mx-auto flex h-full max-w-[1400px] flex-col gap-4 p-4 max-lg:h-auto lg:flex-row max-sm:p-2">
      <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-2">
        <Picture scene={scene} tried={tried} filling={filling} asked={question} onAsk={(id) => ask(id, true)} />
        <Scenes listed={listed} scene={scene} onLook={setLooked} />
      </div>
      <section aria-label="What can be changed" className="flex shrink-0 flex-col gap-3 lg:w-[380px]">
        <Asked
          key={question.id}
          question={question}
          number={at + 1}
          total={questions.length}
          scene={scene}
          onTry={setTried}
          onBefore={at ? () => ask(questions[at - 1]?.id) : undefined}
          onNext={at < questions.length - 1 ? () => ask(questions[at + 1]?.id) : undefined}
        />
        <All questions={questions} asked={question} onAsk={ask} />
      </section>
    </div>
  )
}

const GROUPS: [string, Question['kind'][]][] = [
  ['Words', ['name', 'words']],
  ['Look', ['dial']],
  ['The film', ['music', 'length', 'order']],
]

/** All that can be changed, to be gone to at once. */
function All({ questions, asked, onAsk }: { questions: Question[]; asked: Question; onAsk: (id: string) => void }) {
  return (
    <nav aria-label="All that can be changed" className="min-h-0 overflow-y-auto pb-2">
      {GROUPS.map(([name, kinds]) => {
        const own = questions.filter((q) => kinds.includes(q.kind))
        return (
          own.length > 0 && (
            <div key={name} className="mb-2">
              <h2 className="mb-1 text-[12.5px] text-soft">{name}</h2>
              <ul className="flex flex-wrap gap-1.5">
                {own.map((q) => (
                  <li key={q.id}>
                    <button
                      type="button"
                      aria-current={q === asked}
                      onClick={() => onAsk(q.id)}
                      className={`h-9 rounded-full border px-3 ${q === asked ? 'border-ink bg-card font-semibold' : 'hairline hover:bg-deep'}`}
                    >
                      {q.title}
                    </button>
                  </li>
                ))}
              </ul>
            </div>
          )
        )
      })}
    </nav>
  )
}
