import { LayoutTemplate } from 'lucide-react'
import type { Template } from '@/api/client'
import { DialFields } from './dial-fields'
import { Dials } from './dials'
import { DialNames } from './making'
import { TrialWall } from './trying'
import { MAKE } from './commands'
import { can } from '@/project/command'
import { goTo } from '@/project/places'
import { useProject } from '@/project/project'
import { chooseScenes, useSession } from '@/project/session'
import { TriedFrame } from '@/project/tried-frame'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { Part, PartAction } from '@/ui/part'
import { MAKE_FILM } from './workshop-commands'
import { madeHere, scenesOf, useMaking, useWorkshop } from './making-now'
import { MarkedFrame } from './marked-frame'
import { Remove, Rules, SaveIt, SongZones, TemplateFields } from './template-fields'
import { ZonePanel } from './zone-panel'

const FRAME_OR_TRIALS = [
  ['frame', 'Drop zones'],
  ['trials', 'Try it'],
] as const

/** Where a template is made: its scenes, what others may change marked on the picture, and what becomes of it on awkward pictures. */
export function Workshop() {
  const making = useMaking()
  if (!making) return <Beginning />
  return (
    <div className="grid h-full grid-cols-[minmax(180px,232px)_minmax(0,1fr)_minmax(256px,300px)]">
      <Scenes id={making.id} scene={making.scene} />
      <Middle {...making} />
      <aside aria-label="What others may change" className="min-h-0 overflow-y-auto border-l hairline bg-paper">
        <ZonePanel {...making} />
        <Rules {...making} />
        <Part title="Dials" source={<PartAction onPress={() => goTo('desk')}>to the desk</PartAction>}>
          {Object.keys(making.template.dials ?? {}).length ? <DialFields id={making.id} template={making.template} /> : <DialNames id={making.id} template={making.template} />}
          <Dials ids={scenesWithin(making.id)} template={making.template} />
        </Part>
        <SongZones id={making.id} template={making.template} />
        <TemplateFields key={making.id} id={making.id} template={making.template} />
      </aside>
    </div>
  )
}

const scenesWithin = (id: string): string[] => scenesOf(useProject.getState().document.scenes, id).map(([key]) => key)

/** The templates made here, and the scenes of the one that is worked on. */
function Scenes({ id, scene }: { id: string; scene: string }) {
  const templates = useProject((s) => s.document.templates)
  const scenes = useProject((s) => s.document.scenes)
  const open = (key: string) =>
    chooseScenes(
      scenesOf(scenes, key)
        .slice(0, 1)
        .map(([k]) => k),
    )
  return (
    <nav aria-label="Templates made here" className="min-h-0 overflow-y-auto border-r hairline bg-paper p-3">
      {madeHere(templates).map(([key, template]) => (
        <section key={key} className="mb-3">
          <h2 className="flex items-baseline justify-between gap-2">
            <button
              type="button"
              aria-current={key === id ? 'true' : undefined}
              onClick={() => open(key)}
              className={`truncate text-left font-heading text-[16px] ${key === id ? 'font-semibold' : 'text-soft'}`}
            >
              {template.name}
            </button>
            {key === id && (
              <span className="text-[12px]">
                <Remove id={key} />
              </span>
            )}
          </h2>
          {key === id && (
            <ol className="mt-1.5 space-y-2">
              {scenesOf(scenes, key).map(([k, s], n) => (
                <li key={k}>
                  <button
                    type="button"
                    aria-pressed={k === scene}
                    onClick={() => chooseScenes([k])}
                    className={`w-full rounded-lg p-1 text-left ${k === scene ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}
                  >
                    <TriedFrame scene={k} edits={[]} share={0.7} width={240} alt="" className="w-full" />
                    <span className="mt-0.5 block truncate text-[12.5px]">
                      {n + 1}. {s.name || 'Scene'}
                    </span>
                    <span className="block truncate text-[12px] text-soft">{ruleOf(template, s.template?.part ?? '')}</span>
                  </button>
                </li>
              ))}
            </ol>
          )}
        </section>
      ))}
      <Button size="small" className="w-full" disabled={!can(MAKE_FILM)} onClick={MAKE_FILM.run}>
        Another: the whole film
      </Button>
      <p className="mt-1.5 text-[12px] text-soft">Or choose scenes on the desk and make one of them there.</p>
    </nav>
  )
}

/** What may become of a scene, in a few words. */
function ruleOf(template: Template, part: string): string {
  const { repeats, optional } = template.scenes?.[part] ?? {}
  return repeats ? (optional ? 'repeats, for what is left' : 'repeats') : optional ? 'may be left out' : 'comes once'
}

function Middle({ id, template, scene }: { id: string; template: Template; scene: string }) {
  const project = useProject((s) => s.id)
  const { share, trials } = useWorkshop()
  return (
    <section aria-label="The template" className="flex min-h-0 min-w-0 flex-col">
      <header className="flex h-11 shrink-0 items-center gap-3 border-b hairline px-3">
        <Choice label="What is seen" value={trials ? 'trials' : 'frame'} choices={FRAME_OR_TRIALS} onSet={(v) => useWorkshop.setState({ trials: v === 'trials' })} />
        <span className="flex-1" />
        <SaveIt id={id} />
      </header>
      {trials ? (
        <div className="min-h-0 flex-1 overflow-y-auto p-4">
          <TrialWall project={project} template={id} />
        </div>
      ) : (
        <>
          <MarkedFrame scene={scene} template={template} share={share} />
          <label className="flex h-10 shrink-0 items-center gap-3 border-t hairline px-4 text-[12.5px]">
            Moment
            <input type="range" min="0" max="1" step="any" value={share} onChange={(e) => useWorkshop.setState({ share: Number(e.target.value) })} className="flex-1 accent-brass" />
            <span className="w-10 text-right font-mono">{Math.round(share * 100)} %</span>
          </label>
        </>
      )}
    </section>
  )
}

/** Nothing is made here yet: what a template is, and the ways to one. */
function Beginning() {
  const chosen = useSession((s) => s.chosenScenes.length)
  const some = useProject((s) => Object.keys(s.document.scenes ?? {}).length > 0)
  return (
    <div className="grid h-full place-items-center p-6">
      <div className="max-w-lg rounded-2xl border border-dashed hairline p-12 text-center">
        <LayoutTemplate className="mx-auto mb-4 text-brass" size={34} strokeWidth={1.4} />
        <h1 className="font-heading text-xl">Make a template of what you made</h1>
        <p className="mt-2 text-soft">
          {some
            ? 'Its pictures, words and songs become drop zones that others fill, its numbers and colours dials that they turn. You say which; all else stays as you made it.'
            : 'The film has no scene yet. Make one first, by hand or with a template of the library.'}
        </p>
        <span className="mt-5 flex flex-wrap justify-center gap-2">
          <Button kind="strong" disabled={!some} onClick={MAKE_FILM.run}>
            Of the whole film
          </Button>
          <Button disabled={!chosen} onClick={MAKE.run}>
            {chosen > 1 ? `Of the ${chosen} chosen scenes` : 'Of the chosen scene'}
          </Button>
        </span>
      </div>
    </div>
  )
}
