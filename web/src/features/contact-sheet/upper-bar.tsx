import { Film, FolderPlus, Grid3x3, ImagePlus, LayoutTemplate, List } from 'lucide-react'
import { menuOf } from '@/project/command'
import { useProject } from '@/project/project'
import { Button, IconButton } from '@/ui/button'
import { Select } from '@/ui/choice'
import { Menu } from '@/ui/menu'
import { ADD_FOLDER, ADD_PICTURES, INTO_FILM, ORDERS, POUR, SHOWN } from './commands'
import { type Listing, listAs } from './showing'

type Props = {
  listing: Listing
  count: number
  chosen: number
  /** Whether there is a picture to put into the film. */
  some: boolean
}

/** Adding pictures, finding and ordering them, putting them into the film. */
export function UpperBar({ listing, count, chosen, some }: Props) {
  const treated = useProject((s) => Object.values(s.document.scenes ?? {}).some((scene) => scene.template))
  return (
    <div className="flex items-center gap-2 border-b hairline px-5 py-2.5">
      <h1 className="mr-2 font-heading text-lg font-semibold">Contact sheet</h1>
      <Button onClick={ADD_PICTURES.run}>
        <ImagePlus size={15} /> Add pictures
      </Button>
      <Button onClick={ADD_FOLDER.run}>
        <FolderPlus size={15} /> Add a folder
      </Button>
      <input
        aria-label="Find by word"
        placeholder="Find by word"
        value={listing.words}
        onChange={(e) => listAs({ words: e.target.value })}
        className="h-8 w-40 rounded-lg border hairline bg-card px-2.5"
      />
      <Select label="Which pictures to show" value={listing.shown} choices={SHOWN} onSet={(v) => listAs({ shown: v as Listing['shown'] })} />
      <Menu align="start" trigger={<Button disabled={count < 2}>Order</Button>} entries={async () => menuOf(ORDERS)} />
      <IconButton label={listing.asList ? 'Show as pictures' : 'Show as a list'} onClick={() => listAs({ asList: !listing.asList })}>
        {listing.asList ? <Grid3x3 size={16} /> : <List size={16} />}
      </IconButton>
      <span className="min-w-0 flex-1" />
      {treated && (
        <Button disabled={!some} title="Empty drop zones are filled, then scenes added for as many as there are" onClick={POUR.run}>
          <LayoutTemplate size={15} /> {POUR.short}
        </Button>
      )}
      <Button kind="strong" disabled={!some} title={some ? undefined : 'Every picture is in the film. Choose some to put them in once more.'} onClick={INTO_FILM.run}>
        <Film size={15} /> {chosen ? `Put ${chosen} into the film` : 'Put all unused into the film'}
      </Button>
    </div>
  )
}
