import { ImagePlus } from 'lucide-react'
import { Button } from '@/ui/button'
import { ADD_PICTURES } from './commands'
import type { Listing } from './showing'

/** A project without pictures: the ways to add some. */
export function EmptySheet() {
  return (
    <div className="grid h-full place-items-center">
      <div className="max-w-lg rounded-2xl border border-dashed hairline p-12 text-center">
        <ImagePlus className="mx-auto mb-4 text-brass" size={34} strokeWidth={1.4} />
        <p className="font-heading text-xl">Drop photographs or a whole folder here</p>
        <p className="mt-2 text-soft">JPEG, PNG, WebP, TIFF, HEIC and AVIF, and clips as MP4, MOV, WebM or MKV. They stay on this machine. Then choose the ones you want and put them into the film.</p>
        <Button kind="strong" className="mt-5" onClick={ADD_PICTURES.run}>
          Add pictures
        </Button>
      </div>
    </div>
  )
}

const MISSING = { all: '', used: 'is in the film yet', unused: 'is unused', clips: 'is a clip' }

/** No picture is as it was asked for. */
export const NothingListed = ({ words, shown }: Listing) => <p className="text-soft">{words ? 'No picture has these words.' : `No picture ${MISSING[shown]}.`}</p>
