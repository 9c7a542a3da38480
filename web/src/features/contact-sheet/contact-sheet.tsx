import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import { rectSortingStrategy, SortableContext, sortableKeyboardCoordinates, useSortable } from '@dnd-kit/sortable'
import { useQuery } from '@tanstack/react-query'
import { Check, Film, FolderPlus, Grid3x3, ImagePlus, List, Trash2, TriangleAlert } from 'lucide-react'
import { type DragEvent, type KeyboardEvent, type MouseEvent, useMemo, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { address, client, type Media, type MediaState, settled } from '@/api/client'
import { chosenAfter, neighbour, typing } from '@/interaction/choosing'
import { inOrder } from '@/project/ordering'
import { edit, newId, useProject } from '@/project/store'
import { Button, IconButton } from '@/ui/button'
import { Select } from '@/ui/choice'
import { Menu } from '@/ui/menu'
import { say } from '@/ui/notices'
import { droppedFiles } from './dropped'
import { Enlarged } from './enlarged'
import { forgetRefused, type Sending, sendAll, useSending } from './sending'

const EVERY_MS = 900

export function ContactSheet() {
  const navigate = useNavigate()
  const id = useProject((s) => s.id)
  const media = useProject((s) => s.document.media)
  const scenes = useProject((s) => s.document.scenes)
  const sending = useSending((s) => s.files)
  const stop = useSending((s) => s.stop)
  const [chosen, setChosen] = useState<string[]>([])
  const [enlarged, setEnlarged] = useState<string | null>(null)
  const [asList, setAsList] = useState(false)
  const [shown, setShown] = useState<'all' | 'used' | 'unused'>('all')
  const [over, setOver] = useState(false)
  const files = useRef<HTMLInputElement>(null)
  const folder = useRef<HTMLInputElement>(null)

  const uses = useMemo(() => {
    const count: Record<string, number> = {}
    for (const scene of Object.values(scenes ?? {})) for (const photo of Object.values(scene.layers ?? {})) count[photo.media] = (count[photo.media] ?? 0) + 1
    return count
  }, [scenes])
  const pictures = useMemo(() => inOrder(media).filter(([key]) => shown === 'all' || (shown === 'used') === Boolean(uses[key])), [media, shown, uses])
  const order = useMemo(() => pictures.map(([key]) => key), [pictures])
  const coming = sending.filter((f) => f.state !== 'refused')
  const present = chosen.filter((c) => order.includes(c))

  const { data: state } = useQuery({
    queryKey: ['state', id, Object.keys(media ?? {}).length],
    queryFn: () => settled(client.GET('/api/projects/{project}/state', { params: { path: { project: id } } })),
    refetchInterval: (q) => (q.state.data?.pictures.some((p) => p.state === 'waiting') || sending.length ? EVERY_MS : 10_000),
  })
  const states = useMemo(() => Object.fromEntries((state?.pictures ?? []).map((p) => [p.sha256, p])), [state])
  const waiting = (state?.pictures ?? []).filter((p) => p.state === 'waiting').length

  const add = (list: File[]) => void (list.length && sendAll(list))
  const drop = async (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    add(await droppedFiles(event.dataTransfer))
  }
  const intoFilm = async (ids: string[]) => {
    const made = order.filter((k) => ids.includes(k)).map((k) => ({ id: newId(), media: k }))
    if (!made.length) return
    if (await edit({ edit: 'add_scenes', scenes: made })) {
      useProject.setState({ chosenScenes: made.map((m) => m.id) })
      say(`${made.length} scene${made.length === 1 ? '' : 's'} added to the film.`, 'news', { label: 'Go to the desk', run: () => navigate(`/projects/${id}`) })
    }
  }
  const remove = async () => {
    const used = present.filter((k) => uses[k])
    if (await edit({ edit: 'remove_pictures', ids: present, with_scenes: used.length > 0 })) {
      setChosen([])
      say(`${present.length} picture${present.length === 1 ? '' : 's'} removed${used.length ? ', with the scenes that showed them' : ''}. Undo brings them back.`)
    }
  }
  const click = (key: string, event: MouseEvent) => setChosen((c) => chosenAfter(order, c, key, { toggle: event.ctrlKey || event.metaKey, range: event.shiftKey }))
  const across = () => (asList ? 1 : Math.max(1, Math.floor((document.getElementById('sheet')?.clientWidth ?? 800) / 186)))

  const onKeyDown = (event: KeyboardEvent) => {
    // Events of dialogs bubble through the tree of components up to here.
    if (typing(event.target) || event.defaultPrevented || enlarged) return
    const last = present.at(-1)
    const moves: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -across(), ArrowDown: across() }
    const way = moves[event.key]
    if (way !== undefined && event.altKey && present.length) {
      const rest = order.filter((k) => !present.includes(k))
      const first = order.indexOf(order.find((k) => present.includes(k)) ?? '')
      const before = rest[Math.max(0, Math.min(rest.length, order.slice(0, first).filter((k) => rest.includes(k)).length + way))]
      void edit({ edit: 'move_pictures', ids: present, before: before ?? null })
    } else if (way !== undefined) {
      const to = neighbour(order, last, way)
      if (to) {
        setChosen((c) => (event.shiftKey ? chosenAfter(order, c, to, { toggle: !c.includes(to), range: false }) : [to]))
        document.getElementById(`picture-${to}`)?.focus()
      }
    } else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) setChosen(order)
    else if (event.key === ' ' && last) setEnlarged(last)
    else if (event.key === 'Enter' && present.length) void intoFilm(present)
    else if ((event.key === 'Delete' || event.key === 'Backspace') && present.length) void remove()
    else if (event.key === 'Escape') setChosen([])
    else return
    event.preventDefault()
  }

  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }), useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates, keyboardCodes: { start: ['KeyM'], cancel: ['Escape'], end: ['KeyM', 'Enter'] } }))
  const onDragEnd = ({ active, over: target }: DragEndEvent) => {
    if (!target || active.id === target.id) return
    const moving = present.includes(String(active.id)) ? present : [String(active.id)]
    const all = inOrder(media).map(([k]) => k)
    const forwards = all.indexOf(String(active.id)) < all.indexOf(String(target.id))
    const rest = all.filter((k) => !moving.includes(k) || k === target.id)
    const at = rest.indexOf(String(target.id)) + (forwards ? 1 : 0)
    const before = rest.slice(at).find((k) => !moving.includes(k)) ?? null
    void edit({ edit: 'move_pictures', ids: moving, before })
  }

  const empty = !Object.keys(media ?? {}).length && !sending.length
  return (
    <div className="flex h-full flex-col" onKeyDown={onKeyDown} onDragOver={(e) => { e.preventDefault(); if (e.dataTransfer.types.includes('Files')) setOver(true) }} onDragLeave={(e) => e.currentTarget === e.target && setOver(false)} onDrop={drop}>
      <div className="flex flex-wrap items-center gap-2 border-b hairline px-5 py-2.5">
        <h1 className="mr-3 font-heading text-lg font-semibold">Contact sheet</h1>
        <Button onClick={() => files.current?.click()}>
          <ImagePlus size={15} /> Add pictures
        </Button>
        <Button onClick={() => folder.current?.click()}>
          <FolderPlus size={15} /> Add a folder
        </Button>
        <input ref={files} type="file" multiple accept="image/*,.heic,.heif,.avif,.tif,.tiff" className="hidden" aria-label="Pictures to add" onChange={(e) => { add([...(e.target.files ?? [])]); e.target.value = '' }} />
        <input ref={(node) => { folder.current = node; node?.setAttribute('webkitdirectory', '') }} type="file" multiple className="hidden" aria-label="Folder to add" onChange={(e) => { add([...(e.target.files ?? [])].filter((f) => /\.(jpe?g|png|webp|tiff?|hei[cf]|avif)$/i.test(f.name))); e.target.value = '' }} />
        <Menu
          align="start"
          trigger={<Button disabled={order.length < 2}>Order</Button>}
          entries={[
            { label: 'By name', run: () => void edit({ edit: 'sort_pictures', by: 'name' }) },
            { label: 'By capture time', run: () => void edit({ edit: 'sort_pictures', by: 'captured' }) },
            { label: 'By shape', run: () => void edit({ edit: 'sort_pictures', by: 'shape' }) },
          ]}
        />
        <Select label="Which pictures to show" value={shown} choices={[['all', 'All pictures'], ['used', 'In the film'], ['unused', 'Not in the film']]} onSet={(v) => setShown(v as typeof shown)} />
        <span className="flex-1" />
        <span className="text-soft" role="status">
          {coming.length > 0 && `${coming.length} on their way · `}
          {waiting > 0 && `${waiting} being prepared · `}
          {present.length ? `${present.length} of ${order.length} chosen` : `${order.length} picture${order.length === 1 ? '' : 's'}`}
        </span>
        {stop && <Button onClick={stop}>Stop adding</Button>}
        <IconButton label={asList ? 'Show as pictures' : 'Show as a list'} onClick={() => setAsList(!asList)}>
          {asList ? <Grid3x3 size={16} /> : <List size={16} />}
        </IconButton>
        <IconButton label="Remove the chosen pictures" disabled={!present.length} onClick={remove}>
          <Trash2 size={16} />
        </IconButton>
        <Button kind="strong" disabled={!order.length} onClick={() => intoFilm(present.length ? present : order.filter((k) => !uses[k]))}>
          <Film size={15} /> {present.length ? `Put ${present.length} into the film` : 'Put all unused into the film'}
        </Button>
      </div>
      <Refusals files={sending.filter((f) => f.state === 'refused')} />
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: Escape does the same */}
      <div id="sheet" className={`relative flex-1 overflow-y-auto p-5 ${over ? 'bg-deep' : ''}`} onClick={(e) => e.target === e.currentTarget && setChosen([])}>
        {empty ? (
          <div className="grid h-full place-items-center">
            <div className="max-w-lg rounded-2xl border border-dashed hairline p-12 text-center">
              <ImagePlus className="mx-auto mb-4 text-brass" size={34} strokeWidth={1.4} />
              <p className="font-heading text-xl">Drop photographs or a whole folder here</p>
              <p className="mt-2 text-soft">JPEG, PNG, WebP, TIFF, HEIC and AVIF. They stay on this machine. Then choose the ones you want and put them into the film.</p>
              <Button kind="strong" className="mt-5" onClick={() => files.current?.click()}>
                Add pictures
              </Button>
            </div>
          </div>
        ) : (
          <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
            <SortableContext items={order} strategy={rectSortingStrategy}>
              <ul aria-label="Pictures" className={asList ? 'flex flex-col' : 'grid grid-cols-[repeat(auto-fill,minmax(170px,1fr))] gap-4'}>
                {pictures.map(([key, m]) => (
                  <Tile key={key} id={key} media={m} state={states[m.sha256]} uses={uses[key] ?? 0} chosen={present.includes(key)} asList={asList} project={id} onClick={click} onEnlarge={() => setEnlarged(key)} tabbable={key === (present.at(-1) ?? order[0])} />
                ))}
                {coming.map((f) => (
                  <Coming key={f.id} file={f} asList={asList} />
                ))}
              </ul>
            </SortableContext>
          </DndContext>
        )}
        {!empty && !order.length && !sending.length && <p className="text-soft">No picture {shown === 'used' ? 'is in the film yet' : 'is unused'}.</p>}
      </div>
      {enlarged && media?.[enlarged] && <Enlarged project={id} order={order} id={enlarged} onChange={(k) => { setEnlarged(k); if (k) setChosen([k]) }} />}
    </div>
  )
}

function Refusals({ files }: { files: Sending[] }) {
  if (!files.length) return null
  return (
    <div role="alert" className="max-h-44 overflow-y-auto border-b hairline bg-deep px-5 py-2.5">
      <div className="flex items-center justify-between">
        <p className="flex items-center gap-2 font-medium text-rowan">
          <TriangleAlert size={15} /> {files.length} file{files.length === 1 ? '' : 's'} could not be used; everything else went in.
        </p>
        <Button kind="link" onClick={forgetRefused}>
          Close the list
        </Button>
      </div>
      <ul className="mt-1 space-y-0.5">
        {files.map((f) => (
          <li key={f.id}>
            <span className="font-medium">{f.name}</span> <span className="text-soft">{f.message}</span>
          </li>
        ))}
      </ul>
    </div>
  )
}

type TileProps = { id: string; media: Media; state?: MediaState; uses: number; chosen: boolean; asList: boolean; project: string; tabbable: boolean; onClick: (key: string, event: MouseEvent) => void; onEnlarge: () => void }

function Tile({ id, media, state, uses, chosen, asList, project, tabbable, onClick, onEnlarge }: TileProps) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id })
  const style = { transform: transform ? `translate(${transform.x}px, ${transform.y}px)` : undefined, transition, opacity: isDragging ? 0.5 : 1 }
  const picture = <img src={address.thumbnail(project, id)} alt="" loading="lazy" draggable={false} className={`max-w-full object-contain shadow-sm ${asList ? 'max-h-10' : 'max-h-[118px]'}`} />
  const note = state?.state === 'failed' ? <span className="text-rowan" title={state.message}>cannot be used</span> : state?.state === 'waiting' ? <span>being prepared…</span> : null
  return (
    <li ref={setNodeRef} style={style} className={asList ? '' : 'min-w-0'}>
      <button
        {...attributes}
        {...listeners}
        type="button"
        id={`picture-${id}`}
        tabIndex={tabbable ? 0 : -1}
        aria-pressed={chosen}
        onClick={(e) => onClick(id, e)}
        onDoubleClick={onEnlarge}
        className={`w-full text-left ${asList ? `grid grid-cols-[64px_1fr_120px_170px_90px] items-center gap-4 rounded-md px-2 py-1 ${chosen ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}` : `block rounded-xl p-2 ${chosen ? 'bg-card ring-2 ring-brass' : 'hover:bg-deep'}`}`}
      >
        <span className={`grid place-items-center ${asList ? 'h-10' : 'h-[118px]'}`}>{picture}</span>
        <span className={`block truncate ${asList ? '' : 'mt-2 font-medium'}`}>{media.name}</span>
        <span className="block truncate text-[12px] text-soft">
          {media.width} × {media.height} {!asList && note && <>· {note}</>}
        </span>
        {asList && <span className="text-[12px] text-soft">{media.captured ? media.captured.replace('T', ' ').slice(0, 16) : 'no capture time'}</span>}
        <span className={`flex items-center gap-1 text-[12px] ${uses ? 'text-lichen' : 'text-soft'}`}>
          {uses ? <><Check size={13} /> {uses > 1 ? `in ${uses} scenes` : 'in the film'}</> : 'not used'} {asList && note}
        </span>
      </button>
    </li>
  )
}

function Coming({ file, asList }: { file: Sending; asList: boolean }) {
  return (
    <li className={asList ? 'flex items-center gap-4 px-2 py-1' : 'rounded-xl p-2'}>
      <span className={`grid place-items-center overflow-hidden ${asList ? 'h-10 w-16' : 'h-[118px]'}`}>
        {file.picture ? <img src={file.picture} alt="" className={`max-w-full object-contain opacity-60 ${asList ? 'max-h-10' : 'max-h-[118px]'}`} /> : <span className="text-soft">…</span>}
      </span>
      <span className="mt-2 block flex-1 truncate text-soft">{file.name}</span>
      <span role="progressbar" aria-label={`Sending ${file.name}`} aria-valuenow={Math.round(file.share * 100)} aria-valuemin={0} aria-valuemax={100} className="mt-1 block h-1 w-full overflow-hidden rounded-full bg-rule">
        <span className="block h-full bg-brass" style={{ width: `${file.share * 100}%` }} />
      </span>
    </li>
  )
}
