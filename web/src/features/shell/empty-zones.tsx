import { ACCEPTED, pour, sendAll, useSending } from '@/features/contact-sheet'
import { ownPictures, useProject } from '@/project/project'
import { askForFiles } from '@/ui/files'

/** Drop zones that wait for pictures, and the ways to fill them. */
export function EmptyZones() {
  const empty = useProject((s) => {
    const stand = new Set(Object.entries(s.document.media ?? {}).flatMap(([k, m]) => (m.placeholder ? [k] : [])))
    return stand.size ? Object.values(s.document.scenes ?? {}).flatMap((scene) => Object.values(scene.layers ?? {}).filter((l) => l.kind === 'photo' && !l.hidden && stand.has(l.media))).length : 0
  })
  const scenes = useProject((s) => s.document.scenes)
  const media = useProject((s) => s.document.media)
  const coming = useSending((s) => s.files.some((f) => f.state !== 'refused'))
  if (!empty || coming) return null
  const used = new Set(Object.values(scenes ?? {}).flatMap((s) => Object.values(s.layers ?? {}).flatMap((l) => (l.kind === 'photo' ? [l.media] : []))))
  const unused = ownPictures(media).flatMap(([k]) => (used.has(k) ? [] : [k]))
  return (
    <p role="status" className="flex shrink-0 items-center gap-3 border-b hairline bg-deep px-4 py-1.5">
      {empty === 1 ? 'A drop zone is empty.' : `${empty} drop zones are empty.`}
      {unused.length > 0 && (
        <button type="button" className="text-tarn hover:underline" onClick={() => void pour(unused)}>
          Fill {empty === 1 ? 'it' : 'them'} with the {unused.length} unused picture{unused.length === 1 ? '' : 's'}
        </button>
      )}
      <button type="button" className="text-tarn hover:underline" onClick={() => void askForFiles({ accept: ACCEPTED }).then((files) => (files.length ? sendAll(files, 'template') : undefined))}>
        Add pictures for {empty === 1 ? 'it' : 'them'}…
      </button>
    </p>
  )
}
