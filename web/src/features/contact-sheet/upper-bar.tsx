import { Film, FolderPlus, Grid3x3, ImagePlus, List } from 'lucide-react'
import { type RefObject, useRef } from 'react'
import type { EditOf } from '@/api/client'
import { edit } from '@/project/connection'
import { Button, IconButton } from '@/ui/button'
import { Select } from '@/ui/choice'
import { Menu } from '@/ui/menu'
import { ACCEPTED, READABLE } from './readable'

/** Which pictures are listed, and how. */
export type Listing = { words: string; shown: 'all' | 'used' | 'unused' | 'clips'; asList: boolean }

type Props = {
  files: RefObject<HTMLInputElement | null>
  listing: Listing
  count: number
  chosen: number
  toFilm: string[]
  onListing: (partial: Partial<Listing>) => void
  onAdd: (files: File[]) => void
  onFilm: () => void
}

const arrange = (how: EditOf<'arrange_pictures'>['how'], seed = 1) => void edit({ edit: 'arrange_pictures', how, seed })

/** Adding pictures, finding and ordering them, putting them into the film. */
export function UpperBar({ files, listing, count, chosen, toFilm, onListing, onAdd, onFilm }: Props) {
  const folder = useRef<HTMLInputElement>(null)
  return (
    <div className="flex items-center gap-2 border-b hairline px-5 py-2.5">
      <h1 className="mr-2 font-heading text-lg font-semibold">Contact sheet</h1>
      <Button onClick={() => files.current?.click()}>
        <ImagePlus size={15} /> Add pictures
      </Button>
      <Button onClick={() => folder.current?.click()}>
        <FolderPlus size={15} /> Add a folder
      </Button>
      <input
        ref={files}
        type="file"
        multiple
        accept={ACCEPTED}
        className="hidden"
        aria-label="Pictures to add"
        onChange={(e) => {
          onAdd([...(e.target.files ?? [])])
          e.target.value = ''
        }}
      />
      <input
        ref={(node) => {
          folder.current = node
          node?.setAttribute('webkitdirectory', '')
        }}
        type="file"
        multiple
        className="hidden"
        aria-label="Folder to add"
        onChange={(e) => {
          onAdd([...(e.target.files ?? [])].filter((f) => READABLE.test(f.name)))
          e.target.value = ''
        }}
      />
      <input
        aria-label="Find by word"
        placeholder="Find by word"
        value={listing.words}
        onChange={(e) => onListing({ words: e.target.value })}
        className="h-8 w-40 rounded-lg border hairline bg-card px-2.5"
      />
      <Select
        label="Which pictures to show"
        value={listing.shown}
        choices={[
          ['all', 'All pictures'],
          ['used', 'In the film'],
          ['unused', 'Not in the film'],
          ['clips', 'Clips'],
        ]}
        onSet={(v) => onListing({ shown: v as Listing['shown'] })}
      />
      <Menu
        align="start"
        trigger={<Button disabled={count < 2}>Order</Button>}
        entries={[
          { label: 'By name', run: () => void edit({ edit: 'sort_pictures', by: 'name' }) },
          { label: 'By capture time', run: () => void edit({ edit: 'sort_pictures', by: 'captured' }) },
          { label: 'By shape', run: () => void edit({ edit: 'sort_pictures', by: 'shape' }) },
          'rule',
          { label: 'Reversed', run: () => arrange('reverse') },
          { label: 'Shuffled', run: () => arrange('shuffle', Math.floor(Math.random() * 10_000)) },
        ]}
      />
      <IconButton label={listing.asList ? 'Show as pictures' : 'Show as a list'} onClick={() => onListing({ asList: !listing.asList })}>
        {listing.asList ? <Grid3x3 size={16} /> : <List size={16} />}
      </IconButton>
      <span className="min-w-0 flex-1" />
      <Button kind="strong" disabled={!toFilm.length} title={toFilm.length ? undefined : 'Every picture is in the film. Choose some to put them in once more.'} onClick={onFilm}>
        <Film size={15} /> {chosen ? `Put ${chosen} into the film` : 'Put all unused into the film'}
      </Button>
    </div>
  )
}
