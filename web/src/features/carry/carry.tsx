import { useEffect, useMemo, useState } from 'react'
import { client, type Edit, type LayerRef, type SceneChange, settled, type EditOf } from '@/api/client'
import { inOrder } from '@/project/ordering'
import type { DialogProps } from '@/project/dialogs'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { isText } from '@/project/chosen'
import { calledOf } from '@/project/kinds'
import { layersOf, useProject } from '@/project/project'
import { reachedPhotos, useSession } from '@/project/session'
import { TriedFrame } from '@/project/tried-frame'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { say } from '@/ui/notices'

type What = EditOf<'carry'>['what'][number]

/** What is right on one photo or text, put on others: what to carry, where to, and what it will change, before it happens. */
export function Carry({ onClose }: DialogProps) {
  const [source] = useState(sourceOf)
  return source && <CarryFrom source={source} onClose={onClose} />
}

/** The layer that is right: the chosen text, or the photo of the scene that is seen. */
function sourceOf(): LayerRef | undefined {
  const [first] = useSession.getState().chosenLayers
  if (first && isText(first)) return first
  const photos = reachedPhotos()
  return photos.find((r) => r.scene === useSession.getState().chosenScenes.at(-1)) ?? photos[0]
}

function CarryFrom({ source, onClose }: DialogProps & { source: LayerRef }) {
  const project = useProject((s) => s.id)
  const scenes = useProject((s) => s.document.scenes)
  const chosenScenes = useSession((s) => s.chosenScenes)
  const others = useMemo(() => inOrder(scenes).filter(([id]) => id !== source.scene), [scenes, source.scene])
  const kind = useProject((s) => layersOf(s.document, source.scene)[source.layer]?.kind)
  const name = useProject((s) => calledOf(s, source))
  const offered = catalogue().carried.filter((c) => !c.kinds.length || c.kinds.includes(kind ?? ''))
  const [what, setWhat] = useState<What[]>(() => offered.slice(0, 1).map((c) => c.id as What))
  const [ticked, setTicked] = useState<string[]>(() => {
    const chosen = chosenScenes.filter((s) => s !== source.scene)
    // Where nothing is of its kind, nothing would change.
    return chosen.length ? chosen : others.filter(([, s]) => Object.values(s.layers ?? {}).some((l) => l.kind === kind)).map(([id]) => id)
  })
  const [changes, setChanges] = useState<SceneChange[] | null>(null)
  const targets = others.map(([id]) => id).filter((id) => ticked.includes(id))
  const made: Edit = { edit: 'carry', source, what, to: targets }
  const key = JSON.stringify(made)
  const ready = what.length > 0 && targets.length > 0
  useEffect(() => {
    setChanges(null)
    if (!ready) return
    let over = false
    const timer = setTimeout(async () => {
      try {
        const answer = await settled(client.POST('/api/projects/{project}/changes', { params: { path: { project } }, body: { edits: [JSON.parse(key)] } }))
        if (!over) setChanges(answer.changes)
      } catch (error) {
        say((error as Error).message, 'fault')
      }
    }, 150)
    return () => {
      over = true
      clearTimeout(timer)
    }
  }, [key, ready, project])
  const changed = Object.fromEntries((changes ?? []).map((c) => [c.scene, c.what]))
  const tick = (id: string) => setTicked((t) => (t.includes(id) ? t.filter((x) => x !== id) : [...t, id]))
  const carry = async () => {
    onClose()
    if (await edit(made)) say(`Carried to ${changes?.length ?? targets.length} scene${(changes?.length ?? targets.length) === 1 ? '' : 's'}. One undo takes it back.`)
  }
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      wide
      title="Carry to other scenes"
      description={`From ${kind === 'text' ? `the text “${name}”` : scenes?.[source.scene]?.name || 'this scene'}: tick what to carry and where to. Nothing changes until you carry it.`}
    >
      <fieldset className="mb-3 flex flex-wrap gap-x-4 gap-y-1.5">
        <legend className="sr-only">What to carry</legend>
        {offered.map((c) => (
          <label key={c.id} title={c.help} className="flex items-center gap-1.5">
            <input type="checkbox" checked={what.includes(c.id as What)} onChange={() => setWhat((w) => (w.includes(c.id as What) ? w.filter((x) => x !== c.id) : [...w, c.id as What]))} /> {c.label}
          </label>
        ))}
      </fieldset>
      <div className="mb-2 flex gap-3">
        <Button kind="link" onClick={() => setTicked(others.map(([id]) => id))}>
          Tick all
        </Button>
        <Button kind="link" onClick={() => setTicked([])}>
          Tick none
        </Button>
      </div>
      <ul aria-label="Scenes to carry to" className="grid max-h-[50vh] grid-cols-[repeat(auto-fill,minmax(196px,1fr))] gap-2.5 overflow-y-auto p-1">
        {others.map(([id, scene]) => (
          <li key={id} className="[content-visibility:auto] [contain-intrinsic-size:196px_160px]">
            <label className={`block cursor-pointer rounded-xl p-1.5 ${ticked.includes(id) ? 'bg-card' : 'opacity-60 hover:opacity-100'}`}>
              <TriedFrame
                scene={id}
                edits={ticked.includes(id) && what.length ? [{ edit: 'carry', source, what, to: [id] }] : []}
                width={196}
                alt={`${scene.name} ${ticked.includes(id) ? 'afterwards' : 'as it is'}`}
              />
              <span className="mt-1 flex items-center gap-1.5">
                <input type="checkbox" checked={ticked.includes(id)} onChange={() => tick(id)} />
                <span className="truncate font-medium">{scene.name || 'Scene'}</span>
              </span>
              <span className="block truncate text-[12px] text-soft">{ticked.includes(id) ? (changed[id]?.join(', ') ?? (changes ? 'nothing changes here' : '…')) : 'stays as it is'}</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex items-center justify-end gap-3">
        <span role="status" className="text-soft">
          {changes && `${changes.length} scene${changes.length === 1 ? '' : 's'} will change`}
        </span>
        <Button kind="strong" disabled={!ready || !changes?.length} onClick={() => void carry()}>
          Carry
        </Button>
      </div>
    </Dialog>
  )
}
