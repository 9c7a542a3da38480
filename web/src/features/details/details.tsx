import { control } from '@/project/controls'
import { closeDialog, openDialog, useOpenDialog } from '@/project/dialogs'
import { useApplied } from '@/project/applied'
import { kindOf } from '@/project/kinds'
import { CornerUpRight, LayoutGrid, Palette, Wand2 } from 'lucide-react'
import { useState } from 'react'
import { client, type Edit, type Layer, type LayerRef, type Photo, type Scene, settled } from '@/api/client'
import { Carry } from '@/features/carry/carry'
import { LayersPanel } from '@/features/layers/layers-panel'
import { LayoutPicker } from '@/features/layouts/layout-picker'
import { useLinks } from '@/features/links'
import { LookPicker } from '@/features/looks/look-picker'
import { MotionPart, StagePart, useNumbers } from '@/features/motion'
import { catalogue, edit, layersOf, photosOf, tryEdits, useProject } from '@/project/store'
import { Button } from '@/ui/button'
import { Choice, Select } from '@/ui/choice'
import { NumberField } from '@/ui/number'
import { DefaultsFields, FITS } from './defaults'
import { Fades } from './fades'
import { Heading } from './heading'
import { common, commonFields, Parameters, Part, Source, type Values } from './parts'
import { Views } from './views-part'

const OWN = ['opacity', 'blur'] as const

const OUTLINES = [['rectangle', 'Rectangle'], ['ellipse', 'Ellipse'], ['polygon', 'Polygon']] as const

/** What is chosen, in the order people decide about it. */
export function Details() {
  const chosen = useProject((s) => s.chosenScenes)
  const scenes = useProject((s) => s.document.scenes)
  const records = chosen.map((id) => scenes?.[id]).filter((s): s is Scene => Boolean(s))
  return (
    <aside aria-label="Details" className="min-h-0 overflow-y-auto border-l hairline">
      {records.length ? (
        <Chosen ids={chosen} scenes={records} />
      ) : (
        <div className="px-4 py-3">
          <h2 className="font-heading text-[15px] font-semibold">Project defaults</h2>
          <p className="text-soft">They reach every scene with no value of its own. Choose a scene to change it alone.</p>
          <DefaultsFields />
        </div>
      )}
    </aside>
  )
}

const partOf = (id: string) => [...catalogue().look_parts, ...catalogue().drawn_parts].find((p) => p.id === id)

/** A part that some kinds of layer have, as it is declared. */
function OwnPart({ part, refs }: { part: string; refs: LayerRef[] }) {
  const document = useProject((s) => s.document)
  const numbers = useNumbers(refs, part)
  const links = useLinks(refs, part)
  const declared = partOf(part)
  const made = (values: Values): Edit => ({ edit: 'set_layers', layers: refs, [part]: values })
  return (
    <Part title={declared?.label ?? ''}>
      <Parameters parameters={declared?.parameters ?? []} values={commonFields(refs.map((r) => (layersOf(document, r.scene)[r.layer] as unknown as Record<string, Values> | undefined)?.[part] ?? {}))} numbers={numbers} links={links} onTry={(p) => tryEdits([made(p)])} onSet={(p) => void edit(made(p))} onGiveUp={() => tryEdits(null)} />
    </Part>
  )
}

function Chosen({ ids, scenes }: { ids: string[]; scenes: Scene[] }) {
  const document = useProject((s) => s.document)
  const defaults = document.defaults
  const chosenLayers = useProject((s) => s.chosenLayers)
  const applied = useApplied()
  const dialog = useOpenDialog('looks', 'carry', 'layout')
  // The chosen layers; without a choice, every photo of the chosen scenes.
  const refs = chosenLayers.length ? chosenLayers : photosOf(ids)
  const layers = refs.map((r) => layersOf(document, r.scene)[r.layer]).filter((l): l is Layer => Boolean(l))
  const photoRefs = refs.filter((r) => layersOf(document, r.scene)[r.layer]?.kind === 'photo')
  const photos = layers.filter((l): l is Photo => l.kind === 'photo')
  const others = layers.filter((l) => l.kind !== 'photo')
  const numbers = { mount: useNumbers(photoRefs, 'mount'), shadow: useNumbers(photoRefs, 'shadow'), correction: useNumbers(photoRefs, 'correction') }
  const links = { mount: useLinks(photoRefs, 'mount'), shadow: useLinks(photoRefs, 'shadow'), correction: useLinks(photoRefs, 'correction') }
  const otherShadow = useNumbers(refs, 'shadow')
  const mask = useNumbers(refs, 'mask')
  const backdrop = useNumbers(ids.map((id) => ({ scene: id, layer: null })), 'backdrop')
  const otherLinks = { shadow: useLinks(refs, 'shadow'), mask: useLinks(refs, 'mask'), backdrop: useLinks(ids.map((id) => ({ scene: id, layer: null })), 'backdrop') }
  const onScenes = (partial: Values): Edit => ({ edit: 'set_scenes', ids, ...partial })
  const onLayers = (partial: Values): Edit => ({ edit: 'set_layers', layers: refs, ...partial })
  const onPhotos = (partial: Values): Edit => ({ edit: 'set_layers', layers: photoRefs, ...partial })
  const giveUp = () => tryEdits(null)
  const hold = common(ids.map((id) => applied(id).hold ?? 0))
  const several = scenes.some((s) => Object.values(s.layers ?? {}).filter((l) => l.kind === 'photo').length > 1)
  const scene = ids.at(-1) ?? ''
  const lookId = common(photos.map((p) => p.look ?? null))
  const followed = lookId ?? (photos.every((p) => !p.look) ? (defaults?.look ?? null) : null)
  const source = (part: 'mount' | 'shadow' | 'correction') => <Source own={photos.some((p) => p[part] != null)} look={followed ? document.looks?.[followed]?.name : undefined} onBack={() => void edit(onPhotos({ [part]: null }))} />

  return (
    <>
      <Heading ids={ids} scenes={scenes} />
      {ids.length === 1 && <LayersPanel scene={scene} />}
      <Part title="Scene" source={<Source own={scenes.some((s) => s.hold != null)} onBack={() => void edit(onScenes({ hold: null }))} />}>
        <NumberField {...control('scene.hold')} value={hold} onSet={(v) => void edit(onScenes({ hold: v }))} />
        <NumberField {...control('scene.speed')} value={common(scenes.map((s) => s.speed ?? 1))} onSet={(v) => void edit(onScenes({ speed: v }))} />
        <Fades scenes={scenes} onScenes={onScenes} />
        {several && (
          <Button className="mt-1.5 !h-7 w-full" onClick={() => openDialog('layout')}>
            <LayoutGrid size={14} /> Lay out the photos…
          </Button>
        )}
      </Part>
      {photos.length > 0 && (
        <Part title="Look" source={lookId ? <span className="text-soft">linked</span> : followed ? <span className="text-soft">project default</span> : undefined}>
          <div className="grid grid-cols-2 gap-1.5">
            <Button className="!h-8 min-w-0" onClick={() => openDialog('looks')}>
              <Palette size={14} className="shrink-0" /> <span className="truncate">{followed ? document.looks?.[followed]?.name : 'Looks…'}</span>
            </Button>
            <Button className="!h-8" disabled={!photoRefs[0]} title="Put what is right here on other scenes" onClick={() => openDialog('carry')}>
              <CornerUpRight size={14} /> Carry to…
            </Button>
          </div>
          {lookId && (
            <p className="mt-1.5 text-[12px] text-soft">
              <Button kind="link" onClick={() => void edit(onPhotos({ look: null }))}>
                Unlink
              </Button>{' '}
              · what you change below becomes the photo’s own.{' '}
              <Button kind="link" onClick={() => void edit({ edit: 'put_into_look', id: lookId, photo: photoRefs[0] as LayerRef, photos: photoRefs })}>
                Put it into the look
              </Button>
            </p>
          )}
        </Part>
      )}
      {photos.length > 0 && (
        <Part title="Fit" source={<Source own={photos.some((l) => l.fit != null)} onBack={() => void edit(onPhotos({ fit: null }))} />}>
          <Choice label="Fit" value={common(photoRefs.map((r) => applied(r.scene, r.layer).fit ?? '')) ?? ''} choices={FITS} onSet={(v) => void edit(onPhotos({ fit: v }))} />
        </Part>
      )}
      {layers.length > 0 && <Placing refs={refs} layers={layers} />}
      {layers.length > 0 && <MotionPart refs={refs} layers={layers} />}
      {photos.length > 0 && <WindowPart photos={photos} refs={photoRefs} onPhotos={onPhotos} />}
      {photos.length > 0 && <Views layers={photos} photos={photoRefs} />}
      {[...new Set(others.flatMap((l) => kindOf(l)?.details ?? []))].map((part) => (
        <OwnPart key={part} part={part} refs={refs.filter((r) => part in (layersOf(document, r.scene)[r.layer] ?? {}))} />
      ))}
      {photos.length > 0 &&
        (['mount', 'shadow', 'correction'] as const).map((key) => (
          <Part key={key} title={partOf(key)?.label ?? ''} source={source(key)} closed={key === 'correction'}>
            {key === 'mount' && <Caption photos={photos} onPhotos={onPhotos} />}
            {key === 'correction' && photoRefs[0] && <Suggest photo={photos[0]} onSet={(p) => void edit(onPhotos({ correction: p }))} />}
            <Parameters parameters={partOf(key)?.parameters ?? []} values={commonFields(photoRefs.map((r) => (applied(r.scene, r.layer)[key] ?? {}) as Values))} numbers={numbers[key]} links={links[key]} onTry={(p) => tryEdits([onPhotos({ [key]: p })])} onSet={(p) => void edit(onPhotos({ [key]: p }))} onGiveUp={giveUp} />
          </Part>
        ))}
      {!photos.length && others.length > 0 && (
        <Part title="Shadow" closed source={others.some((l) => l.shadow) ? <button type="button" className="text-tarn hover:underline" onClick={() => void edit(onLayers({ shadow: null }))}>take it away</button> : undefined}>
          {others.some((l) => l.shadow) ? (
            <Parameters parameters={partOf('shadow')?.parameters ?? []} values={commonFields(others.map((l) => (l.shadow ?? {}) as Values))} numbers={otherShadow} links={otherLinks.shadow} onTry={(p) => tryEdits([onLayers({ shadow: p })])} onSet={(p) => void edit(onLayers({ shadow: p }))} onGiveUp={giveUp} />
          ) : (
            <Button className="!h-7" onClick={() => void edit(onLayers({ shadow: {} }))}>
              Cast a shadow
            </Button>
          )}
        </Part>
      )}
      {layers.length > 0 && (
        <Part title="Mask" closed source={layers.some((l) => l.mask) ? <button type="button" className="text-tarn hover:underline" onClick={() => void edit(onLayers({ mask: null }))}>take it away</button> : undefined}>
          {layers.some((l) => l.mask) ? (
            <Parameters parameters={partOf('mask')?.parameters ?? []} values={commonFields(layers.map((l) => (l.mask ?? {}) as Values))} numbers={mask} links={otherLinks.mask} onTry={(p) => tryEdits([onLayers({ mask: p })])} onSet={(p) => void edit(onLayers({ mask: p }))} onGiveUp={giveUp} />
          ) : (
            <Button className="!h-7" onClick={() => void edit(onLayers({ mask: {} }))}>
              Mask by a shape
            </Button>
          )}
        </Part>
      )}
      {catalogue()
        .look_parts.filter((p) => p.id === 'backdrop')
        .map((part) => (
          <Part key={part.id} title={part.label} source={<Source own={scenes.some((s) => s.backdrop != null)} onBack={() => void edit(onScenes({ backdrop: null }))} />}>
            <Parameters parameters={part.parameters} values={commonFields(ids.map((id) => (applied(id).backdrop ?? {}) as Values))} numbers={backdrop} links={otherLinks.backdrop} onTry={(p) => tryEdits([onScenes({ backdrop: p })])} onSet={(p) => void edit(onScenes({ backdrop: p }))} onGiveUp={giveUp} />
          </Part>
        ))}
      <StagePart ids={ids} scenes={scenes} />
      {dialog === 'looks' && <LookPicker photos={photoRefs} scene={scene} onClose={closeDialog} />}
      {dialog === 'carry' && photoRefs[0] && <Carry source={photoRefs.find((r) => r.scene === scene) ?? photoRefs[0]} onClose={closeDialog} />}
      {dialog === 'layout' && <LayoutPicker scenes={ids} onClose={closeDialog} />}
    </>
  )
}

function Placing({ refs, layers }: { refs: LayerRef[]; layers: Layer[] }) {
  const numbers = useNumbers(refs, 'placement')
  const own = useNumbers(refs, 'layer')
  const placed = useLinks(refs, 'placement')
  const ownLinks = useLinks(refs, 'layer')
  const placement = commonFields(layers.map((l) => (l.placement ?? {}) as Values))
  const on = (partial: Values): Edit => ({ edit: 'set_layers', layers: refs, ...partial })
  return (
    <Part
      title="Placement"
      source={
        <button type="button" className="text-tarn hover:underline" onClick={() => void edit({ edit: 'reset_placement', layers: refs })}>
          reset
        </button>
      }
    >
      {catalogue().placement.map((p) => {
        const value = placement[p.id]
        const change = (v: number) => numbers.moved(p.id, v) ?? on({ placement: { [p.id]: v } })
        return (
          <NumberField key={p.id} label={p.label} heading={placed(p.id, p.label, typeof value === 'number' ? value : null)} help={p.help} value={numbers.now(p.id, typeof value === 'number' ? value : null)} minimum={p.minimum ?? 0} maximum={p.maximum ?? 1} usual={p.usual} step={p.step ?? 0.01} unit={p.unit} mark={numbers.mark(p.id, p.label)} onTry={(v) => tryEdits([change(v)])} onSet={(v) => void edit(change(v))} onGiveUp={() => tryEdits(null)} />
        )
      })}
      {OWN.map((key) => {
        const change = (v: number) => own.moved(key, v) ?? on({ [key]: v })
        return (
          <NumberField key={key} {...control(`layer.${key}`)} heading={ownLinks(key, control(`layer.${key}`).label, common(layers.map((l) => l[key] ?? null)))} value={own.now(key, common(layers.map((l) => l[key] ?? (key === 'opacity' ? 1 : 0))))} mark={own.mark(key, control(`layer.${key}`).label)} onTry={(v) => tryEdits([change(v)])} onSet={(v) => void edit(change(v))} onGiveUp={() => tryEdits(null)} />
        )
      })}
      <div className="mt-1 flex items-center gap-2.5">
        <span className="w-[86px] shrink-0">Blend mode</span>
        <Select label="Blend mode" value={common(layers.map((l) => l.blend ?? 'normal')) ?? ''} choices={catalogue().blends.map((b) => [b.id, b.label] as const)} onSet={(blend) => void edit(on({ blend }))} className="!h-7 min-w-0 flex-1" />
      </div>
    </Part>
  )
}

/** The window of photos: whether there is one, its shape, and the picture behind it back to its start. */
function WindowPart({ photos, refs, onPhotos }: { photos: Photo[]; refs: LayerRef[]; onPhotos: (partial: Values) => Edit }) {
  const asFitted = { x: 0, y: 0, zoom: 1, turn: 0 }
  const has = photos.every((p) => p.window)
  const set = (window: Values | null) => void edit(onPhotos({ window }))
  const values = commonFields(photos.map((p) => (p.window ?? {}) as Values))
  const own = values.aspect === null || values.aspect === undefined
  return (
    <Part title="Window" source={has ? <button type="button" className="text-tarn hover:underline" onClick={() => set(null)}>take it away</button> : undefined}>
      {!has && (
        <>
          <p className="mb-1.5 text-[12px] text-soft">The views move the whole photo, as a camera would. In a window the photo stands still and the views move the picture inside.</p>
          <Button className="!h-7" onClick={() => set({})}>
            Give it a window
          </Button>
        </>
      )}
      {has && (
        <>
          <div className="mb-1.5">
            <Choice label="Shape of the window" value={(values.outline as string) ?? ''} choices={OUTLINES} onSet={(outline) => set({ outline })} />
          </div>
          {values.outline === 'polygon' && <NumberField {...control('window.sides')} value={(values.sides as number) ?? null} onSet={(sides) => set({ sides })} />}
          <label className="mb-1 flex items-center gap-2">
            <input type="checkbox" checked={own} onChange={(e) => set({ aspect: e.target.checked ? null : 1.5 })} /> The picture’s own shape
          </label>
          <WindowShape photos={photos} refs={refs} value={(values.aspect as number) ?? null} onPhotos={onPhotos} />
          <div className="mt-1.5 flex flex-wrap gap-1.5">
            <Button className="!h-7 !px-2.5" title="Or double click the photo on the easel" onClick={() => useProject.setState({ target: 'picture', looking: 'live', ...(refs.length === 1 && { chosenLayers: refs }) })}>
              Move the picture in it
            </Button>
            <Button className="!h-7 !px-2.5" onClick={() => void edit({ edit: 'set_views', photos: refs, opening: asFitted, closing: asFitted })}>
              Reset the picture
            </Button>
          </div>
        </>
      )}
    </Part>
  )
}

/** The window's shape as a number: it can be keyframed, which crops the picture in time. */
function WindowShape({ photos, refs, value, onPhotos }: { photos: Photo[]; refs: LayerRef[]; value: number | null; onPhotos: (partial: Values) => Edit }) {
  const numbers = useNumbers(refs, 'window')
  const links = useLinks(refs, 'window')
  const media = useProject((s) => s.document.media)
  const first = photos[0] && media?.[photos[0].media]
  const base = value ?? (first ? first.width / first.height : 1.5)
  const change = (v: number) => numbers.moved('aspect', v) ?? onPhotos({ window: { aspect: v } })
  return <NumberField {...control('window.aspect')} heading={links('aspect', control('window.aspect').label, value)} value={numbers.now('aspect', base)} mark={numbers.mark('aspect', 'Width ÷ height')} onTry={(v) => tryEdits([change(v)])} onSet={(v) => void edit(change(v))} onGiveUp={() => tryEdits(null)} />
}

function Caption({ photos, onPhotos }: { photos: Photo[]; onPhotos: (partial: Values) => Edit }) {
  const present = common(photos.map((p) => p.caption ?? '')) ?? ''
  const [typed, setTyped] = useState<string | null>(null)
  const accept = () => {
    if (typed !== null && typed !== present) void edit(onPhotos({ caption: typed }))
    setTyped(null)
  }
  return (
    <label className="mb-1 flex items-center gap-2.5">
      <span className="w-[86px] shrink-0">Caption</span>
      <input value={typed ?? present} maxLength={200} placeholder="written by hand" onChange={(e) => setTyped(e.target.value)} onBlur={accept} onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()} className="h-7 min-w-0 flex-1 rounded border hairline bg-card px-2" />
    </label>
  )
}

/** A correction worked out from the picture itself. */
export function Suggest({ photo, onSet }: { photo: Photo | undefined; onSet: (correction: Values) => void }) {
  const project = useProject((s) => s.id)
  if (!photo) return null
  const run = async () => onSet((await settled(client.GET('/api/projects/{project}/pictures/{media}/suggestion', { params: { path: { project, media: photo.media } } }))).correction)
  return (
    <Button className="mb-1.5 !h-7" onClick={() => void run()}>
      <Wand2 size={14} /> Suggest from the picture
    </Button>
  )
}
