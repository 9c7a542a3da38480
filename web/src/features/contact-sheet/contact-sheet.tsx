import { useQuery } from '@tanstack/react-query'
import { ImagePlus, TriangleAlert } from 'lucide-react'
import { type DragEvent, type KeyboardEvent, type MouseEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { client, sendPicture, settled } from '@/api/client'
import { Correct, Trim } from '@/features/correct'
import { fits } from '@/features/pictures'
import { chosenAfter, neighbour, typing } from '@/interaction/choosing'
import { inOrder } from '@/project/ordering'
import { edit } from '@/project/connection'
import { newId, useProject } from '@/project/project'
import { chooseScenes } from '@/project/session'
import { Button } from '@/ui/button'
import { say } from '@/ui/notices'
import { droppedFiles } from './dropped'
import { ChosenBar } from './chosen-bar'
import { Coming, Refusals } from './on-their-way'
import { sendAll, useSending } from './sending'
import { type Listing, UpperBar } from './upper-bar'
import { gridOf, Sheet } from './sheet'
import { useShowing } from './showing'

const EVERY_MS = 900

export function ContactSheet() {
  const navigate = useNavigate()
  const id = useProject((s) => s.id)
  const media = useProject((s) => s.document.media)
  const scenes = useProject((s) => s.document.scenes)
  const groups = useProject((s) => s.document.groups)
  const sending = useSending((s) => s.files)
  const stop = useSending((s) => s.stop)
  const [chosen, setChosen] = useState<string[]>([])
  const [open, setOpen] = useState<string | null>(null)
  const [trimming, setTrimming] = useState<string[] | null>(null)
  const [listing, setListing] = useState<Listing>({ words: '', shown: 'all', asList: false })
  const { words, shown, asList } = listing
  const [over, setOver] = useState(false)
  const files = useRef<HTMLInputElement>(null)

  const uses = useMemo(() => {
    const count: Record<string, number> = {}
    for (const container of [...Object.values(scenes ?? {}), ...Object.values(groups ?? {})])
      for (const layer of Object.values(container.layers ?? {})) if (layer.kind === 'photo') count[layer.media] = (count[layer.media] ?? 0) + 1
    return count
  }, [scenes, groups])
  const all = useMemo(() => inOrder(media), [media])
  const pictures = useMemo(
    () => all.filter(([key, m]) => (shown === 'all' || (shown === 'clips' ? m.kind === 'clip' : (shown === 'used') === Boolean(uses[key]))) && fits(words, m.name, m.description, m.file)),
    [all, shown, uses, words],
  )
  const order = useMemo(() => pictures.map(([key]) => key), [pictures])
  const wanted = useShowing((s) => s.picture)
  // A picture that was asked for by name: whatever is listed now, it is among what is.
  useEffect(() => {
    if (!wanted) return
    setListing((now) => ({ ...now, words: '', shown: 'all' }))
    setChosen([wanted])
  }, [wanted])
  const unused = useMemo(() => order.filter((key) => !uses[key]), [order, uses])
  const coming = sending.filter((f) => f.state !== 'refused')
  const present = chosen.filter((c) => order.includes(c))

  const { data: state } = useQuery({
    queryKey: [
      'state',
      id,
      Object.values(media ?? {})
        .map((m) => m.sha256)
        .join(),
    ],
    queryFn: () => settled(client.GET('/api/projects/{project}/state', { params: { path: { project: id } } })),
    refetchInterval: (q) => (q.state.data?.pictures.some((p) => p.state === 'waiting') || sending.length ? EVERY_MS : 10_000),
  })
  const states = useMemo(() => Object.fromEntries((state?.pictures ?? []).map((p) => [p.sha256, p])), [state])
  const waiting = (state?.pictures ?? []).filter((p) => p.state === 'waiting').length
  const missing = all.filter(([, m]) => states[m.sha256]?.state === 'missing')

  const add = (list: File[]) => void (list.length && sendAll(list))
  const drop = async (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    add(await droppedFiles(event.dataTransfer))
  }
  const news = (made: string[], text: string) => {
    chooseScenes(made)
    say(text, 'news', { label: 'Go to the desk', run: () => navigate(`/projects/${id}`) })
  }
  const intoFilm = async (ids: string[]) => {
    const made = order.filter((k) => ids.includes(k)).map((k) => ({ id: newId(), media: k }))
    if (made.length && (await edit({ edit: 'add_scenes', scenes: made })))
      news(
        made.map((m) => m.id),
        `${made.length} scene${made.length === 1 ? '' : 's'} added to the film.`,
      )
  }
  const together = async () => {
    const scene = newId()
    const photos = order.filter((k) => present.includes(k)).map((k) => ({ layer: newId(), media: k }))
    if (await edit({ edit: 'add_composition', id: scene, photos, layout: { kind: 'grid' } })) news([scene], `One scene of ${photos.length} photos added. Lay it out on the desk.`)
  }
  const remove = async () => {
    const used = present.filter((k) => uses[k])
    if (await edit({ edit: 'remove_pictures', ids: present, with_scenes: used.length > 0 })) {
      setChosen([])
      say(`${present.length} picture${present.length === 1 ? '' : 's'} removed${used.length ? ', with the scenes that showed them' : ''}. Undo brings them back.`)
    }
  }
  const replaceFile = async (file: File | undefined) => {
    const [only] = present
    if (!file || !only) return
    try {
      const record = await sendPicture(id, file, () => undefined, new AbortController().signal)
      if (await edit({ edit: 'replace_file', id: only, picture: { ...record, id: only } })) say('The picture has its new file. Everything else is kept.')
    } catch (error) {
      say((error as Error).message, 'fault')
    }
  }
  const click = (key: string, event: MouseEvent) => setChosen((c) => chosenAfter(order, c, key, { toggle: event.ctrlKey || event.metaKey, range: event.shiftKey }))
  const move = (ids: string[], before: string | null) => void edit({ edit: 'move_pictures', ids, before })
  const movable = order.length === all.length

  // Its keys work from the start, before anything was clicked.
  const page = useRef<HTMLDivElement>(null)
  useEffect(() => page.current?.focus(), [])
  const onKeyDown = (event: KeyboardEvent) => {
    // Events of dialogs bubble through the tree of components up to here.
    if (typing(event.target) || event.defaultPrevented || open || trimming) return
    const last = present.at(-1)
    const across = gridOf(document.getElementById('sheet')?.querySelector('ul')?.clientWidth ?? 800, asList).columns
    const moves: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -across, ArrowDown: across }
    const way = moves[event.key]
    if (way !== undefined && event.altKey && present.length && movable) {
      const rest = order.filter((k) => !present.includes(k))
      const first = order.indexOf(order.find((k) => present.includes(k)) ?? '')
      const before = rest[Math.max(0, Math.min(rest.length, order.slice(0, first).filter((k) => rest.includes(k)).length + way))]
      move(present, before ?? null)
    } else if (way !== undefined) {
      const to = neighbour(order, last, way)
      if (to) {
        setChosen((c) => (event.shiftKey ? chosenAfter(order, c, to, { toggle: !c.includes(to), range: false }) : [to]))
        document.getElementById(`picture-${to}`)?.focus()
      }
    } else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) setChosen(order)
    else if (event.key === ' ' && last) setOpen(last)
    else if (event.key === 'Enter' && present.length) void intoFilm(present)
    else if ((event.key === 'Delete' || event.key === 'Backspace') && present.length) void remove()
    else if (event.key === 'Escape') setChosen([])
    else return
    event.preventDefault()
  }
  const closeTrim = useCallback(() => setTrimming(null), [])
  const change = (key: string | null) => {
    setOpen(key)
    if (key) setChosen((c) => (c.length > 1 && c.includes(key) ? c : [key]))
  }
  const empty = !all.length && !sending.length
  return (
    <div
      ref={page}
      tabIndex={-1}
      className="flex h-full flex-col"
      onKeyDown={onKeyDown}
      onDragOver={(e) => {
        e.preventDefault()
        if (e.dataTransfer.types.includes('Files')) setOver(true)
      }}
      onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
      onDrop={drop}
    >
      <UpperBar
        files={files}
        listing={listing}
        count={all.length}
        chosen={present.length}
        toFilm={present.length ? present : unused}
        onListing={(partial) => setListing((now) => ({ ...now, ...partial }))}
        onAdd={add}
        onFilm={() => void intoFilm(present.length ? present : unused)}
      />
      <div className="flex h-10 items-center gap-1 border-b hairline bg-deep/60 px-5">
        <span className="mr-3 text-soft" role="status">
          {coming.length > 0 && `${coming.length} on their way · `}
          {waiting > 0 && `${waiting} being prepared · `}
          {present.length ? `${present.length} of ${order.length} chosen` : `${order.length} picture${order.length === 1 ? '' : 's'}`}
        </span>
        {stop && <Button onClick={stop}>Stop adding</Button>}
        {present.length > 0 ? (
          <ChosenBar
            ids={present}
            onCorrect={() => setOpen(present[0] ?? null)}
            onTrim={() => setTrimming(present)}
            onTogether={() => void together()}
            onRemove={() => void remove()}
            onReplace={(file) => void replaceFile(file)}
          />
        ) : (
          !empty && <span className="text-[12px] text-soft">Click one, Shift for a range, Ctrl for more; drag them to another place; Space or a double click enlarges.</span>
        )}
      </div>
      <Refusals files={sending.filter((f) => f.state === 'refused')} />
      {missing.length > 0 && (
        <p role="alert" className="flex items-center gap-2 border-b hairline bg-deep px-5 py-2 text-rowan">
          <TriangleAlert size={15} /> {missing.length === 1 ? `The file of “${missing[0]?.[1].name}” is missing` : `${missing.length} files are missing`} on this machine’s disk. Choose the picture and
          replace its file; all else is kept.
        </p>
      )}
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: Escape does the same */}
      <div
        id="sheet"
        data-scroller
        className={`relative flex-1 overflow-y-auto p-4 ${over ? 'bg-deep' : ''}`}
        onClick={(e) => (e.target === e.currentTarget || e.target instanceof HTMLUListElement) && setChosen([])}
      >
        {empty ? (
          <div className="grid h-full place-items-center">
            <div className="max-w-lg rounded-2xl border border-dashed hairline p-12 text-center">
              <ImagePlus className="mx-auto mb-4 text-brass" size={34} strokeWidth={1.4} />
              <p className="font-heading text-xl">Drop photographs or a whole folder here</p>
              <p className="mt-2 text-soft">
                JPEG, PNG, WebP, TIFF, HEIC and AVIF, and clips as MP4, MOV, WebM or MKV. They stay on this machine. Then choose the ones you want and put them into the film.
              </p>
              <Button kind="strong" className="mt-5" onClick={() => files.current?.click()}>
                Add pictures
              </Button>
            </div>
          </div>
        ) : (
          <Sheet
            wanted={wanted && order.includes(wanted) ? wanted : null}
            project={id}
            pictures={pictures}
            chosen={present}
            states={states}
            uses={uses}
            asList={asList}
            movable={movable}
            onClick={click}
            onOpen={setOpen}
            onMove={move}
          >
            <ul className={asList ? 'flex flex-col' : 'grid grid-cols-[repeat(auto-fill,minmax(170px,1fr))] gap-4'}>
              {coming.map((f) => (
                <Coming key={f.id} file={f} asList={asList} />
              ))}
            </ul>
          </Sheet>
        )}
        {!empty && !order.length && !sending.length && (
          <p className="text-soft">{words ? 'No picture has these words.' : `No picture ${shown === 'used' ? 'is in the film yet' : shown === 'clips' ? 'is a clip' : 'is unused'}.`}</p>
        )}
      </div>
      {open && media?.[open] && <Correct order={order} id={open} chosen={present} onChange={change} />}
      {trimming && <Trim ids={trimming} onClose={closeTrim} />}
    </div>
  )
}
