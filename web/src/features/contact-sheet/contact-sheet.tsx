import { type DragEvent, type KeyboardEvent, type MouseEvent, useEffect, useRef, useState } from 'react'
import { Correct, Trim } from '@/features/correct'
import { chosenAfter } from '@/interaction/choosing'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { Button } from '@/ui/button'
import { ChosenBar } from './chosen-bar'
import { droppedFiles } from './dropped'
import { EmptySheet, NothingListed } from './empty'
import { sheetKeys } from './keyboard'
import { useListed } from './listed'
import { Coming, MissingFiles, Refusals } from './on-their-way'
import { sendAll, useSending } from './sending'
import { Sheet } from './sheet'
import { choosePictures, openPicture, trim, useShowing } from './showing'
import { UpperBar } from './upper-bar'

const closeTrim = () => trim(null)

export function ContactSheet() {
  const id = useProject((s) => s.id)
  const media = useProject((s) => s.document.media)
  const sending = useSending((s) => s.files)
  const stop = useSending((s) => s.stop)
  const { chosen, open, trimming, listing, wanted } = useShowing()
  const { asList } = listing
  const [over, setOver] = useState(false)
  const { all, pictures, order, uses, places, unused, states, waiting, missing } = useListed(listing)
  const coming = sending.filter((f) => f.state !== 'refused')
  const present = chosen.filter((c) => order.includes(c))

  const drop = async (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    const files = await droppedFiles(event.dataTransfer)
    if (files.length) void sendAll(files)
  }
  const click = (key: string, event: MouseEvent) => choosePictures(chosenAfter(order, useShowing.getState().chosen, key, { toggle: event.ctrlKey || event.metaKey, range: event.shiftKey }))
  const move = (ids: string[], before: string | null) => void edit({ edit: 'move_pictures', ids, before })
  const movable = order.length === all.length

  // Its keys work from the start, before anything was clicked; what is open closes with it.
  const page = useRef<HTMLDivElement>(null)
  useEffect(() => {
    page.current?.focus()
    return () => useShowing.setState({ open: null, trimming: null })
  }, [])
  const onKeyDown = (event: KeyboardEvent) => {
    // Events of dialogs bubble through the tree of components up to here.
    if (open || trimming) return
    sheetKeys(event, { order, present, asList, movable }, move)
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
      <UpperBar listing={listing} count={all.length} chosen={present.length} some={present.length + unused.length > 0} />
      <div className="flex h-10 items-center gap-1 border-b hairline bg-deep/60 px-5">
        <span className="mr-3 text-soft" role="status">
          {coming.length > 0 && `${coming.length} on their way · `}
          {waiting > 0 && `${waiting} being prepared · `}
          {present.length ? `${present.length} of ${order.length} chosen` : `${order.length} picture${order.length === 1 ? '' : 's'}`}
        </span>
        {stop && <Button onClick={stop}>Stop adding</Button>}
        {present.length > 0 ? (
          <ChosenBar count={present.length} />
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
        onClick={(e) => (e.target === e.currentTarget || e.target instanceof HTMLUListElement) && choosePictures([])}
      >
        {empty ? (
          <EmptySheet />
        ) : (
          <Sheet
            wanted={wanted && order.includes(wanted) ? wanted : null}
            project={id}
            pictures={pictures}
            chosen={present}
            states={states}
            uses={uses}
            places={places}
            asList={asList}
            movable={movable}
            onClick={click}
            onOpen={openPicture}
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
      {open && media?.[open] && <Correct order={order} id={open} chosen={present} onChange={openPicture} />}
      {trimming && <Trim ids={trimming} onClose={closeTrim} />}
    </div>
  )
}
