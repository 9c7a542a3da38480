import { type DragEvent, type KeyboardEvent, type MouseEvent, useCallback, useEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { Correct, Trim } from '@/features/correct'
import { chosenAfter } from '@/interaction/choosing'
import { edit } from '@/project/connection'
import { placeAddress } from '@/project/places'
import { useProject } from '@/project/project'
import { Button } from '@/ui/button'
import { say } from '@/ui/notices'
import { droppedFiles } from './dropped'
import { putIntoFilm, putTogether, removePictures, replaceFile } from './actions'
import { ChosenBar } from './chosen-bar'
import { EmptySheet, NothingListed } from './empty'
import { sheetKeys } from './keyboard'
import { useListed } from './listed'
import { Coming, MissingFiles, Refusals } from './on-their-way'
import { sendAll, useSending } from './sending'
import { type Listing, UpperBar } from './upper-bar'
import { Sheet } from './sheet'
import { useShowing } from './showing'

export function ContactSheet() {
  const navigate = useNavigate()
  const id = useProject((s) => s.id)
  const media = useProject((s) => s.document.media)
  const sending = useSending((s) => s.files)
  const stop = useSending((s) => s.stop)
  const [chosen, setChosen] = useState<string[]>([])
  const [open, setOpen] = useState<string | null>(null)
  const [trimming, setTrimming] = useState<string[] | null>(null)
  const [listing, setListing] = useState<Listing>({ words: '', shown: 'all', asList: false })
  const { asList } = listing
  const [over, setOver] = useState(false)
  const files = useRef<HTMLInputElement>(null)

  const { all, pictures, order, uses, unused, states, waiting, missing } = useListed(listing)
  const wanted = useShowing((s) => s.picture)
  // A picture that was asked for by name: whatever is listed now, it is among what is.
  useEffect(() => {
    if (!wanted) return
    setListing((now) => ({ ...now, words: '', shown: 'all' }))
    setChosen([wanted])
  }, [wanted])
  const coming = sending.filter((f) => f.state !== 'refused')
  const present = chosen.filter((c) => order.includes(c))

  const add = (list: File[]) => void (list.length && sendAll(list))
  const drop = async (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    add(await droppedFiles(event.dataTransfer))
  }
  const told = (text: string) => say(text, 'news', { label: 'Go to the desk', run: () => navigate(placeAddress(id, 'desk')) })
  const intoFilm = async (ids: string[]) => {
    const text = await putIntoFilm(order.filter((k) => ids.includes(k)))
    if (text) told(text)
  }
  const together = async () => {
    const text = await putTogether(order.filter((k) => present.includes(k)))
    if (text) told(text)
  }
  const remove = async () => {
    if (
      await removePictures(
        present,
        present.some((k) => uses[k]),
      )
    )
      setChosen([])
  }
  const click = (key: string, event: MouseEvent) => setChosen((c) => chosenAfter(order, c, key, { toggle: event.ctrlKey || event.metaKey, range: event.shiftKey }))
  const move = (ids: string[], before: string | null) => void edit({ edit: 'move_pictures', ids, before })
  const movable = order.length === all.length

  // Its keys work from the start, before anything was clicked.
  const page = useRef<HTMLDivElement>(null)
  useEffect(() => page.current?.focus(), [])
  const onKeyDown = (event: KeyboardEvent) => {
    // Events of dialogs bubble through the tree of components up to here.
    if (open || trimming) return
    sheetKeys(event, { order, present, asList, movable }, { choose: setChosen, enlarge: setOpen, move, intoFilm: (ids) => void intoFilm(ids), remove: () => void remove() })
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
            onReplace={(file) => present[0] && file && void replaceFile(present[0], file)}
          />
        ) : (
          !empty && <span className="text-[12px] text-soft">Click one, Shift for a range, Ctrl for more; drag them to another place; Space or a double click enlarges.</span>
        )}
      </div>
      <Refusals files={sending.filter((f) => f.state === 'refused')} />
      <MissingFiles names={missing.map(([, m]) => m.name)} />
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: Escape does the same */}
      <div
        id="sheet"
        data-scroller
        className={`relative flex-1 overflow-y-auto p-4 ${over ? 'bg-deep' : ''}`}
        onClick={(e) => (e.target === e.currentTarget || e.target instanceof HTMLUListElement) && setChosen([])}
      >
        {empty ? (
          <EmptySheet onAdd={() => files.current?.click()} />
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
        {!empty && !order.length && !sending.length && <NothingListed {...listing} />}
      </div>
      {open && media?.[open] && <Correct order={order} id={open} chosen={present} onChange={change} />}
      {trimming && <Trim ids={trimming} onClose={closeTrim} />}
    </div>
  )
}
