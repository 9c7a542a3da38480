import { useApplied } from '@/project/applied'
import { LayersPanel } from '@/features/layers'
import { later } from '@/ui/later'
import { Differing } from '@/ui/part'
import { CHAPTERS, type ChapterId, PARTS } from './chapters'
import { type Chosen, useChosen } from '@/project/chosen'
import { Dividers } from './dividers'
import { useFinder } from './finder'
import { Heading } from './heading'
import { Sought } from '@/ui/sought'
import { useArrangement } from '@/ui/arrangement'

const DefaultsFields = later<{ onClose: () => void }>(() => import('./defaults').then((m) => m.DefaultsFields))

/** What is chosen, in chapters; without a choice, the project's defaults. */
export function Details() {
  const chosen = useChosen()
  return (
    <aside aria-label="Details" id="details" className="flex min-h-0 min-w-0 flex-col">
      {chosen ? (
        <Chapters chosen={chosen} />
      ) : (
        <div className="min-h-0 overflow-y-auto px-4 py-3">
          <h2 className="font-heading text-[15px] font-semibold">Project defaults</h2>
          <p className="text-soft">They reach every scene with no value of its own. Choose a scene to change it alone.</p>
          <DefaultsFields onClose={() => undefined} />
        </div>
      )}
    </aside>
  )
}

/** Names of the parts of what is chosen that differ from the default, as the server says. */
function useDiffering({ ids, refs }: Chosen): ReadonlySet<string> {
  const applied = useApplied()
  return new Set([...ids.map((id) => applied(id)), ...refs.map((r) => applied(r.scene, r.layer))].flatMap((a) => a.differing ?? []))
}

function Chapters({ chosen }: { chosen: Chosen }) {
  const differing = useDiffering(chosen)
  const remembered = useArrangement((s) => s.chapter)
  const { sought } = useFinder()
  const parts = PARTS.filter((p) => p.applies(chosen))
  const chapters = CHAPTERS.filter((c) => parts.some((p) => p.chapter === c.id))
  // The chapter that was open last, where there is one of this name.
  const open: ChapterId = chapters.find((c) => c.id === remembered)?.id ?? chapters[0]?.id ?? 'scene'
  const shown = sought === null ? parts.filter((p) => p.chapter === open) : sought ? parts : []
  return (
    <Differing.Provider value={differing}>
      <div className="shrink-0">
        <Heading chosen={chosen} />
        {chosen.ids.length === 1 && <LayersPanel scene={chosen.scene} />}
      </div>
      <Dividers chapters={chapters} open={open} marked={(c) => parts.some((p) => p.chapter === c && p.names.some((n) => differing.has(n)))} />
      <div
        id="chapter"
        role="tabpanel"
        aria-label={sought === null ? CHAPTERS.find((c) => c.id === open)?.label : 'What was found'}
        data-finding={sought ? '' : undefined}
        className="group min-h-0 flex-1 overflow-y-auto"
      >
        <Sought.Provider value={sought ?? ''}>
          {shown.map(({ Part, chapter, names }) => (
            <Part key={`${chapter} ${names.join()}`} chosen={chosen} />
          ))}
        </Sought.Provider>
        {sought === '' && <p className="px-4 py-3 text-soft">Type what the number is called: “zoom”, “border”, “focus”.</p>}
        {sought && <p className="hidden px-4 py-3 text-soft group-[:not(:has([data-found]))]:block">No number of what is chosen is called “{sought}”.</p>}
      </div>
    </Differing.Provider>
  )
}
