import { ChevronRight } from 'lucide-react'
import { createContext, type ReactNode, useContext } from 'react'
import { setFolded, useArrangement } from './arrangement'
import { fitness } from './finding'
import { Sought } from './sought'

/** Names of the parts that are not as a new thing has them. */
export const Differing = createContext<ReadonlySet<string>>(new Set())

type Props = { name?: string; title: string; source?: ReactNode; closed?: boolean; children: ReactNode }

/** A titled part that folds up, with where its values come from; one that differs from the default carries a mark. */
export function Part({ name, title, source, closed = false, children }: Props) {
  const words = useContext(Sought)
  const differs = useContext(Differing).has(name ?? '')
  const wanted = words !== '' && fitness(words, title) > 0
  const folded = useArrangement((s) => s.folded[title] ?? closed) && !words
  return (
    <section aria-label={title} data-whole={wanted || undefined} className={`border-b hairline px-4 pt-2.5 last:border-b-0 ${folded ? 'pb-2' : 'pb-3'}`}>
      <div data-heading className={`flex items-baseline justify-between gap-2 ${folded ? '' : 'mb-1.5'}`}>
        <h3 className="font-heading text-[15px] font-semibold">
          <button type="button" aria-expanded={!folded} onClick={() => setFolded(title, !folded)} className="-ml-3.5 flex items-center gap-0.5">
            <ChevronRight size={12} className={`text-soft ${folded ? '' : 'rotate-90'}`} /> {title}
            {differs && (
              <span title="Differs from the default" className="ml-1 size-[5px] rounded-full bg-brass">
                <span className="sr-only">(differs from the default)</span>
              </span>
            )}
          </button>
        </h3>
        <span className="truncate text-[12px]">{source}</span>
      </div>
      {!folded && <Sought.Provider value={wanted ? '' : words}>{children}</Sought.Provider>}
    </section>
  )
}

/** Says that a part follows a look (or what `word` says) or the project's defaults, or offers the way back to them. */
export function Source({ own, look, onBack, word = 'look', otherwise = 'project default' }: { own: boolean; look?: string; onBack: () => void; word?: string; otherwise?: string }) {
  if (!own) return <span className="text-soft">{look ? `${word}: ${look}` : otherwise}</span>
  return <PartAction onPress={onBack}>{look ? `own · back to the ${word}` : 'own · back to default'}</PartAction>
}

/** What a part offers beside its title. */
export function PartAction({ onPress, children }: { onPress: () => void; children: ReactNode }) {
  return (
    <button type="button" className="text-tarn hover:underline" onClick={onPress}>
      {children}
    </button>
  )
}
