import { Crop, LayoutGrid, MoreHorizontal, RotateCw, SlidersHorizontal, Trash2 } from 'lucide-react'
import { useRef } from 'react'
import { edit } from '@/project/connection'
import { Button, IconButton } from '@/ui/button'
import { Menu } from '@/ui/menu'
import { ACCEPTED } from './readable'

type Props = { ids: string[]; onCorrect: () => void; onTrim: () => void; onTogether: () => void; onRemove: () => void; onReplace: (file: File | undefined) => void }

/** What can be done to the chosen pictures. */
export function ChosenBar({ ids, onCorrect, onTrim, onTogether, onRemove, onReplace }: Props) {
  const replacement = useRef<HTMLInputElement>(null)
  return (
    <>
      <input
        ref={replacement}
        type="file"
        accept={ACCEPTED}
        className="hidden"
        aria-label="File to put in its place"
        onChange={(e) => {
          onReplace(e.target.files?.[0])
          e.target.value = ''
        }}
      />

      <Button kind="quiet" onClick={() => onCorrect()}>
        <SlidersHorizontal size={15} /> Correct
      </Button>
      <Button kind="quiet" onClick={() => void edit({ edit: 'turn_pictures', ids: ids, quarters: 1 })}>
        <RotateCw size={15} /> Turn
      </Button>
      <Button kind="quiet" onClick={() => onTrim()}>
        <Crop size={15} /> Trim borders
      </Button>
      <Button kind="quiet" disabled={ids.length < 2} onClick={() => onTogether()}>
        <LayoutGrid size={15} /> Together in one scene
      </Button>
      <Menu
        align="start"
        trigger={
          <IconButton label="More for the chosen pictures">
            <MoreHorizontal size={16} />
          </IconButton>
        }
        entries={[
          { label: 'Turn to the left', run: () => void edit({ edit: 'turn_pictures', ids: ids, quarters: -1 }) },
          { label: 'Flip left to right', run: () => void edit({ edit: 'flip_pictures', ids: ids, axis: 'across' }) },
          { label: 'Flip top to bottom', run: () => void edit({ edit: 'flip_pictures', ids: ids, axis: 'down' }) },
          'rule',
          { label: 'Replace the file…', run: () => replacement.current?.click(), disabled: ids.length !== 1 },
          { label: 'All as the files are', run: () => void edit({ edit: 'set_pictures', ids: ids, crop: null, straighten: 0, correction: null }) },
        ]}
      />
      <IconButton label="Remove the chosen pictures" onClick={onRemove}>
        <Trash2 size={16} />
      </IconButton>
    </>
  )
}
