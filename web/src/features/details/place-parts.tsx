import { useLinks } from '@/features/links'
import { Parameters, useNumbers } from '@/features/parameters'
import { useApplied } from '@/project/applied'
import { common, commonFields, type Values } from '@/project/common'
import { control } from '@/project/controls'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { tryEdits, useSession } from '@/project/session'
import { Button } from '@/ui/button'
import { Choice, Select } from '@/ui/choice'
import { NumberField } from '@/ui/number'
import { Part, PartAction, Source } from '@/ui/part'
import { Row, Tick } from '@/ui/row'
import type { PartProps } from '@/project/chosen'
import { declared } from './declared'
import { FITS } from './fits'

const OWN = ['opacity', 'blur'] as const

const OUTLINES = [
  ['rectangle', 'Rectangle'],
  ['ellipse', 'Ellipse'],
  ['polygon', 'Polygon'],
] as const

const AS_FITTED = { x: 0, y: 0, zoom: 1, turn: 0 }

export function FitPart({ chosen: { photos, photoRefs, onPhotos } }: PartProps) {
  const applied = useApplied()
  return (
    <Part name="fit" title="Fit" source={<Source own={photos.some((l) => l.fit != null)} onBack={() => void edit(onPhotos({ fit: null }))} />}>
      <Row label="Fit" stacked bare>
        <Choice label="Fit" value={common(photoRefs.map((r) => applied(r.scene, r.layer).fit ?? '')) ?? ''} choices={FITS} onSet={(v) => void edit(onPhotos({ fit: v }))} />
      </Row>
    </Part>
  )
}

export function PlacementPart({ chosen: { refs, layers, onLayers } }: PartProps) {
  const numbers = useNumbers(refs, 'placement')
  const own = useNumbers(refs, 'layer')
  const placed = useLinks(refs, 'placement')
  const ownLinks = useLinks(refs, 'layer')
  const placement = commonFields(layers.map((l) => (l.placement ?? {}) as Values))
  return (
    <Part name="placement" title="Placement" source={<PartAction onPress={() => void edit({ edit: 'reset_placement', layers: refs })}>reset</PartAction>}>
      {catalogue().placement.map((p) => {
        const value = placement[p.id]
        const change = (v: number) => numbers.moved(p.id, v) ?? onLayers({ placement: { [p.id]: v } })
        return (
          <NumberField
            key={p.id}
            label={p.label}
            heading={placed(p.id, p.label, typeof value === 'number' ? value : null)}
            help={p.help}
            value={numbers.now(p.id, typeof value === 'number' ? value : null)}
            minimum={p.minimum ?? 0}
            maximum={p.maximum ?? 1}
            usual={p.usual}
            step={p.step ?? 0.01}
            unit={p.unit}
            mark={numbers.mark(p.id, p.label)}
            onTry={(v) => tryEdits([change(v)])}
            onSet={(v) => void edit(change(v))}
            onGiveUp={() => tryEdits(null)}
          />
        )
      })}
      {OWN.map((key) => {
        const change = (v: number) => own.moved(key, v) ?? onLayers({ [key]: v })
        return (
          <NumberField
            key={key}
            {...control(`layer.${key}`)}
            heading={ownLinks(key, control(`layer.${key}`).label, common(layers.map((l) => l[key] ?? null)))}
            value={own.now(key, common(layers.map((l) => l[key] ?? (key === 'opacity' ? 1 : 0))))}
            mark={own.mark(key, control(`layer.${key}`).label)}
            onTry={(v) => tryEdits([change(v)])}
            onSet={(v) => void edit(change(v))}
            onGiveUp={() => tryEdits(null)}
          />
        )
      })}
      <Row label="Blend mode">
        <Select
          label="Blend mode"
          size="small"
          value={common(layers.map((l) => l.blend ?? 'normal')) ?? ''}
          choices={catalogue().blends.map((b) => [b.id, b.label] as const)}
          onSet={(blend) => void edit(onLayers({ blend }))}
          className="min-w-0 flex-1"
        />
      </Row>
    </Part>
  )
}

/** The window of photos: whether there is one, its shape, and the picture behind it back to its start. */
export function WindowPart({ chosen: { photos, photoRefs, onPhotos } }: PartProps) {
  const has = photos.every((p) => p.window)
  const set = (window: Values | null) => void edit(onPhotos({ window }))
  const values = commonFields(photos.map((p) => (p.window ?? {}) as Values))
  const own = values.aspect === null || values.aspect === undefined
  return (
    <Part name="window" title="Window" source={has ? <PartAction onPress={() => set(null)}>take it away</PartAction> : undefined}>
      {!has && (
        <>
          <p className="mb-1.5 text-[12px] text-soft">The views move the whole photo, as a camera would. In a window the photo stands still and the views move the picture inside.</p>
          <Button size="small" onClick={() => set({})}>
            Give it a window
          </Button>
        </>
      )}
      {has && (
        <>
          <Row label="Shape of the window" stacked bare>
            <Choice label="Shape of the window" value={(values.outline as string) ?? ''} choices={OUTLINES} onSet={(outline) => set({ outline })} />
          </Row>
          {values.outline === 'polygon' && <NumberField {...control('window.sides')} value={(values.sides as number) ?? null} onSet={(sides) => set({ sides })} />}
          <Tick label="The picture’s own shape" value={own} onSet={(on) => set({ aspect: on ? null : 1.5 })} />
          <WindowShape chosen={{ photos, photoRefs, onPhotos }} value={(values.aspect as number) ?? null} />
          <div className="mt-1.5 flex flex-wrap gap-1.5">
            <Button
              size="small"
              title="Or double click the photo on the easel"
              onClick={() => useSession.setState({ target: 'picture', looking: 'live', ...(photoRefs.length === 1 && { chosenLayers: photoRefs }) })}
            >
              Move the picture in it
            </Button>
            <Button size="small" onClick={() => void edit({ edit: 'set_views', photos: photoRefs, opening: AS_FITTED, closing: AS_FITTED })}>
              Reset the picture
            </Button>
          </div>
        </>
      )}
    </Part>
  )
}

/** The window's shape as a number: it can be keyframed, which crops the picture in time. */
function WindowShape({ chosen: { photos, photoRefs, onPhotos }, value }: { chosen: Pick<PartProps['chosen'], 'photos' | 'photoRefs' | 'onPhotos'>; value: number | null }) {
  const numbers = useNumbers(photoRefs, 'window')
  const links = useLinks(photoRefs, 'window')
  const first = useProject((s) => (photos[0] ? s.document.media?.[photos[0].media] : undefined))
  const base = value ?? (first ? first.width / first.height : 1.5)
  const change = (v: number) => numbers.moved('aspect', v) ?? onPhotos({ window: { aspect: v } })
  return (
    <NumberField
      {...control('window.aspect')}
      heading={links('aspect', control('window.aspect').label, value)}
      value={numbers.now('aspect', base)}
      mark={numbers.mark('aspect', 'Width ÷ height')}
      onTry={(v) => tryEdits([change(v)])}
      onSet={(v) => void edit(change(v))}
      onGiveUp={() => tryEdits(null)}
    />
  )
}

export function MaskPart({ chosen: { refs, layers, onLayers } }: PartProps) {
  const numbers = useNumbers(refs, 'mask')
  const links = useLinks(refs, 'mask')
  const masked = layers.some((l) => l.mask)
  return (
    <Part name="mask" title="Mask" source={masked ? <PartAction onPress={() => void edit(onLayers({ mask: null }))}>take it away</PartAction> : undefined}>
      {masked ? (
        <Parameters
          parameters={declared('mask')?.parameters ?? []}
          values={commonFields(layers.map((l) => (l.mask ?? {}) as Values))}
          numbers={numbers}
          links={links}
          onTry={(p) => tryEdits([onLayers({ mask: p })])}
          onSet={(p) => void edit(onLayers({ mask: p }))}
          onGiveUp={() => tryEdits(null)}
        />
      ) : (
        <Button size="small" onClick={() => void edit(onLayers({ mask: {} }))}>
          Mask by a shape
        </Button>
      )}
    </Part>
  )
}
