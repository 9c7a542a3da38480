import { useState } from 'react'
import { address } from '@/api/client'
import { pictureMark, useProject } from '@/project/project'

type Props = { name: string; media: string | null; fault: string; on: boolean; aims: boolean; onPress: () => void; onHold: () => void; onPut: () => void }

/** A place with the picture in it. `aims`: something is held that could be put here; `onHold`, `onPut`: it is dragged away, something is dropped. */
export function PlaceTile({ name, media, fault, on, aims, onPress, onHold, onPut }: Props) {
  const project = useProject((s) => s.id)
  const record = useProject((s) => (media ? s.document.media?.[media] : undefined))
  const [over, setOver] = useState(false)
  return (
    <button
      type="button"
      data-tile
      aria-pressed={on}
      aria-label={`${name} ${record?.name ?? 'empty'}${fault ? `. ${fault}` : ''}`.trim()}
      title={name || record?.name}
      draggable={Boolean(record)}
      onClick={onPress}
      onDragStart={onHold}
      onDragOver={(e) => {
        e.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        setOver(false)
        if ([...e.dataTransfer.types].includes('Files')) return
        e.preventDefault()
        onPut()
      }}
      className={`w-full rounded-lg p-1 text-left ${on || over ? 'bg-card ring-2 ring-brass' : aims ? 'outline-dashed outline-1 outline-brass' : 'hover:bg-deep'}`}
    >
      <span className={`grid aspect-[4/3] place-items-center overflow-hidden rounded ${record ? 'bg-deep' : 'border-2 border-dashed hairline'}`}>
        {media && record ? (
          <img src={address.thumbnail(project, media, pictureMark(record))} alt="" draggable={false} loading="lazy" className="h-full w-full object-cover" />
        ) : (
          <span className="text-[12px] text-soft">empty</span>
        )}
      </span>
      {fault && <span className="mt-0.5 block text-[11.5px] leading-tight text-rowan">{fault}</span>}
    </button>
  )
}
