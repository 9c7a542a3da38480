import { ImagePlus } from 'lucide-react'
import { type DragEvent, useState } from 'react'
import type { Filling } from '@/api/client'
import { ACCEPTED, droppedFiles, forgetRefused, sendRefusedAgain, useSending } from '@/features/contact-sheet'
import { edit } from '@/project/connection'
import { Button } from '@/ui/button'
import { askForFiles } from '@/ui/files'
import { say } from '@/ui/notices'
import { Dealing } from './dealing'
import { addPictures, placeUnused } from './making'
import { Places } from './places'
import { pictured } from './told'

/** Pictures in, and where each of them goes. */
export function Add({ filling }: { filling: Filling }) {
  const [over, setOver] = useState(false)
  const places = filling.zones.filter(pictured)
  const held = places.filter((z) => z.held).length
  const drop = async (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    if (![...event.dataTransfer.types].includes('Files')) return
    const files = await droppedFiles(event.dataTransfer)
    if (files.length) void addPictures(files)
  }
  const choose = () => void askForFiles({ accept: ACCEPTED }).then((files) => (files.length ? addPictures(files) : undefined))
  return (
    <div
      className="mx-auto max-w-6xl px-5 py-6 max-sm:px-3"
      onDragOver={(e) => {
        e.preventDefault()
        if ([...e.dataTransfer.types].includes('Files')) setOver(true)
      }}
      onDragLeave={(e) => !e.currentTarget.contains(e.relatedTarget as Node) && setOver(false)}
      onDrop={(e) => void drop(e)}
    >
      <div
        className={`flex flex-wrap items-center justify-center gap-x-6 gap-y-3 rounded-2xl border-2 border-dashed px-6 text-center ${over ? 'border-brass bg-card' : 'hairline'} ${held ? 'py-4' : 'py-12'}`}
      >
        <ImagePlus className="text-brass" size={held ? 26 : 38} strokeWidth={1.3} />
        <div>
          <h1 className={`font-heading font-semibold ${held ? 'text-[19px]' : 'text-[26px]'}`}>{held ? 'Drop more pictures here' : 'Drop your pictures here'}</h1>
          {!held && <p className="mt-1 text-soft">Single ones or a whole folder. Each finds its place; you can move them afterwards.</p>}
        </div>
        <Button kind={held ? 'plain' : 'strong'} className="!h-11 !px-5" onClick={choose}>
          Choose pictures
        </Button>
      </div>
      <OnTheirWay />
      {held > 0 && <Dealing />}
      <Missing filling={filling} />
      <Places filling={filling} places={places} onAdd={choose} />
    </div>
  )
}

/** How many are being sent, and what did not go in. */
function OnTheirWay() {
  const files = useSending((s) => s.files)
  const stop = useSending((s) => s.stop)
  const coming = files.filter((f) => f.state !== 'refused')
  const refused = files.filter((f) => f.state === 'refused')
  const share = coming.reduce((sum, f) => sum + f.share, 0) / Math.max(coming.length, 1)
  return (
    <>
      {coming.length > 0 && (
        <div className="mt-3 flex items-center gap-3">
          <span
            role="progressbar"
            aria-label="Pictures being sent"
            aria-valuenow={Math.round(share * 100)}
            aria-valuemin={0}
            aria-valuemax={100}
            className="h-2 flex-1 overflow-hidden rounded-full bg-rule"
          >
            <span className="block h-full bg-brass" style={{ width: `${share * 100}%` }} />
          </span>
          <span className="text-soft">{coming.length} on their way</span>
          {stop && (
            <Button kind="link" onClick={stop}>
              Stop
            </Button>
          )}
        </div>
      )}
      {refused.length > 0 && (
        <div role="alert" className="mt-3 rounded-xl border border-rowan px-4 py-3">
          <p className="flex flex-wrap items-center gap-4 font-medium text-rowan">
            {refused.length === 1 ? 'One file did not go in.' : `${refused.length} files did not go in.`}
            <Button kind="link" onClick={sendRefusedAgain}>
              Try again
            </Button>
            <Button kind="link" onClick={forgetRefused}>
              Go on without
            </Button>
          </p>
          <ul className="mt-1 max-h-32 overflow-y-auto text-[13px]">
            {refused.map((f) => (
              <li key={f.id}>
                <span className="font-medium">{f.name}</span> <span className="text-soft">{f.message}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
    </>
  )
}

/** What is missing or left over, each with a way out. */
function Missing({ filling }: { filling: Filling }) {
  const coming = useSending((s) => s.files.some((f) => f.state !== 'refused'))
  const { spare, unused } = filling
  if (coming || (!spare.length && !unused.length)) return null
  const put = () => void placeUnused().then((done) => done && say('They are in the film, as far as there was room.'))
  return (
    <p role="status" className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-1 rounded-xl bg-deep px-4 py-2.5">
      {spare.length > 0 && (
        <span>
          {spare.length === 1 ? 'One scene has no picture yet.' : `${spare.length} scenes have no picture yet.`}{' '}
          <Button kind="link" onClick={() => void edit({ edit: 'remove_scenes', ids: spare })}>
            Leave {spare.length === 1 ? 'it' : 'them'} out
          </Button>
        </span>
      )}
      {unused.length > 0 && (
        <span>
          {unused.length === 1 ? 'One picture is not in the film.' : `${unused.length} pictures are not in the film.`}{' '}
          <Button kind="link" onClick={put}>
            Make room for {unused.length === 1 ? 'it' : 'them'}
          </Button>
        </span>
      )}
    </p>
  )
}
