import { CornerUpRight, Palette, Wand2 } from 'lucide-react'
import { type ReactNode, useState } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { client, type LayerRef, type Photo, settled } from '@/api/client'
import { useLinks } from '@/features/links'
import { Parameters, useNumbers } from '@/features/parameters'
import { useApplied } from '@/project/applied'
import { common, commonFields, type Values } from '@/project/common'
import { openDialog } from '@/project/dialogs'
import { kindOf } from '@/project/kinds'
import { edit } from '@/project/connection'
import { layersOf, useProject } from '@/project/project'
import { tryEdits } from '@/project/session'
import { Button } from '@/ui/button'
import { Part, PartAction, Source } from '@/ui/part'
import { Row } from '@/ui/row'
import type { Chosen, PartProps } from '@/project/chosen'
import { declared } from './declared'

/** The look that photos follow: their own, or (none of them has one) the project's. */
function useFollowed(photos: Photo[]): { own: string | null; name: string | undefined } {
  const project = useProject((s) => s.document.defaults?.look ?? null)
  const looks = useProject((s) => s.document.looks)
  const own = common(photos.map((p) => p.look ?? null))
  const followed = own ?? (photos.every((p) => !p.look) ? project : null)
  return { own, name: followed ? looks?.[followed]?.name : undefined }
}

export function LookPart({ chosen: { photos, photoRefs, onPhotos } }: PartProps) {
  const { own, name } = useFollowed(photos)
  return (
    <Part name="look" title="Look" source={own ? <span className="text-soft">linked</span> : name ? <span className="text-soft">project default</span> : undefined}>
      <div className="grid grid-cols-2 gap-1.5">
        <Button className="min-w-0" onClick={() => openDialog('looks')}>
          <Palette size={14} className="shrink-0" /> <span className="truncate">{name ?? 'Looks…'}</span>
        </Button>
        <Button disabled={!photoRefs[0]} title="Put what is right here on other scenes" onClick={() => openDialog('carry')}>
          <CornerUpRight size={14} /> Carry to…
        </Button>
      </div>
      {own && (
        <p className="mt-1.5 text-[12px] text-soft">
          <Button kind="link" onClick={() => void edit(onPhotos({ look: null }))}>
            Unlink
          </Button>{' '}
          · what you change below becomes the photo’s own.{' '}
          <Button kind="link" onClick={() => void edit({ edit: 'put_into_look', id: own, photo: photoRefs[0] as LayerRef, photos: photoRefs })}>
            Put it into the look
          </Button>
        </p>
      )}
    </Part>
  )
}

type Looked = 'mount' | 'shadow' | 'correction'

/** A part that photos have from their look or the defaults, or of their own. */
function LookedPart({ part, chosen: { photos, photoRefs, onPhotos }, children }: { part: Looked; chosen: Chosen; children?: ReactNode }) {
  const applied = useApplied()
  const numbers = useNumbers(photoRefs, part)
  const links = useLinks(photoRefs, part)
  const { name } = useFollowed(photos)
  return (
    <Part name={part} title={declared(part)?.label ?? ''} source={<Source own={photos.some((p) => p[part] != null)} look={name} onBack={() => void edit(onPhotos({ [part]: null }))} />}>
      {children}
      <Parameters
        parameters={declared(part)?.parameters ?? []}
        values={commonFields(photoRefs.map((r) => (applied(r.scene, r.layer)[part] ?? {}) as Values))}
        numbers={numbers}
        links={links}
        onTry={(p) => tryEdits([onPhotos({ [part]: p })])}
        onSet={(p) => void edit(onPhotos({ [part]: p }))}
        onGiveUp={() => tryEdits(null)}
      />
    </Part>
  )
}

export const MountPart = ({ chosen }: PartProps) => (
  <LookedPart part="mount" chosen={chosen}>
    <Caption {...chosen} />
  </LookedPart>
)

export const PhotoShadowPart = ({ chosen }: PartProps) => <LookedPart part="shadow" chosen={chosen} />

export const CorrectionPart = ({ chosen }: PartProps) => (
  <LookedPart part="correction" chosen={chosen}>
    <Suggest photo={chosen.photos[0]} onSet={(p) => void edit(chosen.onPhotos({ correction: p }))} />
  </LookedPart>
)

function Caption({ photos, onPhotos }: Pick<Chosen, 'photos' | 'onPhotos'>) {
  const present = common(photos.map((p) => p.caption ?? '')) ?? ''
  const [typed, setTyped] = useState<string | null>(null)
  const accept = () => {
    if (typed !== null && typed !== present) void edit(onPhotos({ caption: typed }))
    setTyped(null)
  }
  return (
    <Row label="Caption">
      <input
        aria-label="Caption"
        value={typed ?? present}
        maxLength={200}
        placeholder="written by hand"
        onChange={(e) => setTyped(e.target.value)}
        onBlur={accept}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        className="h-7 min-w-0 flex-1 rounded border hairline bg-card px-2"
      />
    </Row>
  )
}

/** A correction worked out from the picture itself. */
function Suggest({ photo, onSet }: { photo: Photo | undefined; onSet: (correction: Values) => void }) {
  const project = useProject((s) => s.id)
  if (!photo) return null
  const run = async () => onSet((await settled(client.GET('/api/projects/{project}/pictures/{media}/suggestion', { params: { path: { project, media: photo.media } } }))).correction)
  return (
    <Button size="small" className="mb-1.5" onClick={() => void run()}>
      <Wand2 size={14} /> Suggest from the picture
    </Button>
  )
}

/** Parts that some kinds of layer have, as they are declared. */
export const OwnParts = ({ chosen: { refs, others } }: PartProps) =>
  [...new Set(others.flatMap((l) => (l.kind === 'text' ? [] : (kindOf(l)?.details ?? []))))].map((part) => <OwnPart key={part} part={part} chosen={refs} />)

function OwnPart({ part, chosen }: { part: string; chosen: LayerRef[] }) {
  const records = useProject(useShallow((s) => chosen.map((r) => (layersOf(s.document, r.scene)[r.layer] as unknown as Record<string, Values> | undefined)?.[part])))
  const refs = chosen.filter((_, i) => records[i])
  const numbers = useNumbers(refs, part)
  const links = useLinks(refs, part)
  const made = (values: Values) => ({ edit: 'set_layers', layers: refs, [part]: values }) as const
  return (
    <Part name={part} title={declared(part)?.label ?? ''}>
      <Parameters
        parameters={declared(part)?.parameters ?? []}
        values={commonFields(records.filter((r): r is Values => Boolean(r)))}
        numbers={numbers}
        links={links}
        onTry={(p) => tryEdits([made(p)])}
        onSet={(p) => void edit(made(p))}
        onGiveUp={() => tryEdits(null)}
      />
    </Part>
  )
}

/** The shadow of layers that have none unless they are given one. */
export function ShadowPart({ chosen: { refs, others, onLayers } }: PartProps) {
  const numbers = useNumbers(refs, 'shadow')
  const links = useLinks(refs, 'shadow')
  const cast = others.some((l) => l.shadow)
  return (
    <Part name="shadow" title="Shadow" source={cast ? <PartAction onPress={() => void edit(onLayers({ shadow: null }))}>take it away</PartAction> : undefined}>
      {cast ? (
        <Parameters
          parameters={declared('shadow')?.parameters ?? []}
          values={commonFields(others.map((l) => (l.shadow ?? {}) as Values))}
          numbers={numbers}
          links={links}
          onTry={(p) => tryEdits([onLayers({ shadow: p })])}
          onSet={(p) => void edit(onLayers({ shadow: p }))}
          onGiveUp={() => tryEdits(null)}
        />
      ) : (
        <Button size="small" onClick={() => void edit(onLayers({ shadow: {} }))}>
          Cast a shadow
        </Button>
      )}
    </Part>
  )
}
