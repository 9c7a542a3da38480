import { useQuery } from '@tanstack/react-query'
import { client, type EditOf, type Offer, settled } from '@/api/client'
import { edit, openProject } from '@/project/connection'
import { type DialogProps, openDialog } from '@/project/dialogs'
import { inOrder } from '@/project/ordering'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'
import { TriedFrame } from '@/project/tried-frame'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { say } from '@/ui/notices'
import { count } from './told'
import { takeEverywhere } from './treating'

const SHOWN = 6
const SHARE = 0.7
const KEPT = 'What you filled in and changed by hand stays.'
const FILLS_KEPT = 'What you filled in stays, and where its dials stand. The version it was made by is not at hand any more, so what else you changed by hand is made anew.'

/** A newer version of the template of the chosen scene, if the library has one. */
function useOffer(): Offer | undefined {
  const project = useProject((s) => s.id)
  const scene = useSession((s) => s.chosenScenes.at(-1) ?? '')
  const record = useProject((s) => s.document.scenes?.[scene]?.template?.template ?? '')
  const key = useProject((s) => s.document.templates?.[record]?.origin?.key)
  const { data } = useQuery({
    queryKey: ['offers', project, key],
    enabled: key !== undefined,
    queryFn: () => settled(client.GET('/api/projects/{project}/templates/offers', { params: { path: { project } } })),
  })
  return data?.offers.find((o) => o.record === record)
}

/** Says that there is a newer version, and leads to what it changes. */
export function Offered() {
  const offer = useOffer()
  if (!offer) return null
  return (
    <p className="mb-2 rounded-lg bg-deep px-2.5 py-1.5 text-[12.5px]">
      Version {offer.newest} is in the library; this is {offer.version}.{' '}
      <button type="button" className="text-tarn hover:underline" onClick={() => openDialog('renewal')}>
        See what changes…
      </button>
    </p>
  )
}

/** Scenes as they are and as the newer version makes them; taken over here, or in every film. */
export function Renewal({ onClose }: DialogProps) {
  const offer = useOffer()
  const project = useProject((s) => s.id)
  const scenes = useProject((s) => s.document.scenes)
  if (!offer) return null
  const take: EditOf<'take_version'> = { edit: 'take_version', template: offer.record, key: offer.key }
  const made = inOrder(scenes).flatMap(([id, s], n) => (s.template?.template === offer.record ? [{ id, n, name: s.name || 'Scene' }] : []))
  const here = async () => {
    if (await edit(take)) onClose()
  }
  const everywhere = async () => {
    try {
      const { films } = await takeEverywhere(offer.template)
      await openProject(project)
      say(`Version ${offer.newest} is in ${count(films, 'film')} now. Each can undo it.`)
      onClose()
    } catch (error) {
      say((error as Error).message, 'fault')
    }
  }
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      wide
      title={`“${offer.name}” ${offer.newest}`}
      description={`Left as it is, right as the newer version makes it. ${offer.keeps ? KEPT : FILLS_KEPT}`}
    >
      <ul aria-label="Before and after" className="grid max-h-[56vh] grid-cols-2 gap-x-6 gap-y-3 overflow-y-auto p-1">
        {made.slice(0, SHOWN).map(({ id, n, name }) => (
          <li key={id}>
            <span className="mb-1 block truncate text-[12.5px]">
              {n + 1}. {name}
            </span>
            <span className="grid grid-cols-2 gap-1.5">
              <TriedFrame scene={id} edits={[]} share={SHARE} alt={`${name} before`} />
              <TriedFrame scene={id} edits={[take]} share={SHARE} alt={`${name} after`} />
            </span>
          </li>
        ))}
      </ul>
      {made.length > SHOWN && <p className="mt-2 text-[12.5px] text-soft">and {made.length - SHOWN} more scenes</p>}
      <div className="mt-4 flex items-center justify-end gap-2 border-t hairline pt-3">
        {offer.keeps && <Button onClick={() => void everywhere()}>In every film that uses it</Button>}
        <Button kind="strong" onClick={() => void here()}>
          Take it over here
        </Button>
      </div>
    </Dialog>
  )
}
