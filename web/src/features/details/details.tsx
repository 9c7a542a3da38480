import { ArrowLeftRight, Equal, Sparkles } from 'lucide-react'
import { useState } from 'react'
import { address, type Edit, type Photo, type Scene, type View } from '@/api/client'
import { catalogue, edit, photosOf, tryEdits, useProject } from '@/project/store'
import { toSeconds, toTicks } from '@/project/times'
import { Button } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { NumberField } from '@/ui/number'
import { DefaultsFields, FITS } from './defaults'
import { common, commonFields, Parameters, Part, Source } from './parts'

type Values = Record<string, unknown>

const PLACEMENT = [
  ['x', 'Across', -1, 1, 0.01, '', 'Fraction of the frame’s width from its middle, right positive'],
  ['y', 'Down', -1, 1, 0.01, '', 'Fraction of the frame’s height from its middle, down positive'],
  ['size', 'Size', 0.05, 3, 0.01, '×', '1 is as the fit shows it'],
  ['turn', 'Turn', -180, 180, 0.5, '°', 'Clockwise'],
] as const

const VIEW = [
  ['x', 'Across', -0.5, 0.5, 0.005, '', 'Middle of the view, fraction of the picture’s width from its middle'],
  ['y', 'Down', -0.5, 0.5, 0.005, '', 'Middle of the view, fraction of the picture’s height from its middle'],
  ['zoom', 'Zoom', 0.3, 8, 0.01, '×', '1 shows what the fit shows; 2 half of it'],
  ['turn', 'Turn', -45, 45, 0.5, '°', 'Of the view on the picture, clockwise'],
] as const

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

function Chosen({ ids, scenes }: { ids: string[]; scenes: Scene[] }) {
  const defaults = useProject((s) => s.document.defaults)
  const photos = photosOf(ids)
  const layers = scenes.flatMap((s) => Object.values(s.layers ?? {})) as Photo[]
  const onScenes = (partial: Values): Edit => ({ edit: 'set_scenes', ids, ...partial })
  const onPhotos = (partial: Values): Edit => ({ edit: 'set_photos', photos, ...partial })
  const giveUp = () => tryEdits(null)
  const hold = common(scenes.map((s) => s.hold ?? defaults?.hold ?? 0))
  const placement = commonFields(layers.map((l) => (l.placement ?? {}) as Values))
  const fit = common(layers.map((l) => l.fit ?? 'default'))

  return (
    <>
      <Heading ids={ids} scenes={scenes} />
      <Part title="Scene" source={<Source own={scenes.some((s) => s.hold != null)} onBack={() => void edit(onScenes({ hold: null }))} />}>
        <NumberField label="Hold" help="Time the scene stands between its joins" value={hold === null ? null : toSeconds(hold)} minimum={0.1} maximum={60} step={0.1} unit="s" onSet={(v) => void edit(onScenes({ hold: toTicks(v) }))} />
      </Part>
      {layers.length > 0 && (
        <>
          <Part title="Fit" source={<Source own={layers.some((l) => l.fit != null)} onBack={() => void edit(onPhotos({ fit: null }))} />}>
            <Choice label="Fit" value={fit === 'default' ? (defaults?.fit ?? 'auto') : (fit ?? '')} choices={FITS} onSet={(v) => void edit(onPhotos({ fit: v }))} />
          </Part>
          <Part
            title="Placement"
            source={
              <button type="button" className="text-tarn hover:underline" onClick={() => void edit({ edit: 'reset_placement', photos })}>
                reset
              </button>
            }
          >
            {PLACEMENT.map(([key, label, low, high, step, unit, help]) => {
              const value = placement[key]
              return (
                <NumberField key={key} label={label} help={help} value={typeof value === 'number' ? value : null} minimum={low} maximum={high} step={step} unit={unit} onTry={(v) => tryEdits([onPhotos({ placement: { [key]: v } })])} onSet={(v) => void edit(onPhotos({ placement: { [key]: v } }))} onGiveUp={giveUp} />
              )
            })}
          </Part>
          <Views layers={layers} photos={photos} />
          {catalogue()
            .look_parts.filter((p) => p.id !== 'backdrop')
            .map((part) => {
              const key = part.id as 'mount' | 'shadow'
              const values = commonFields(layers.map((l) => (l[key] ?? defaults?.[key] ?? {}) as Values))
              return (
                <Part key={key} title={part.label} source={<Source own={layers.some((l) => l[key] != null)} onBack={() => void edit(onPhotos({ [key]: null }))} />}>
                  <Parameters parameters={part.parameters} values={values} onTry={(p) => tryEdits([onPhotos({ [key]: p })])} onSet={(p) => void edit(onPhotos({ [key]: p }))} onGiveUp={giveUp} />
                </Part>
              )
            })}
        </>
      )}
      {catalogue()
        .look_parts.filter((p) => p.id === 'backdrop')
        .map((part) => (
          <Part key={part.id} title={part.label} source={<Source own={scenes.some((s) => s.backdrop != null)} onBack={() => void edit(onScenes({ backdrop: null }))} />}>
            <Parameters parameters={part.parameters} values={commonFields(scenes.map((s) => (s.backdrop ?? defaults?.backdrop ?? {}) as Values))} onTry={(p) => tryEdits([onScenes({ backdrop: p })])} onSet={(p) => void edit(onScenes({ backdrop: p }))} onGiveUp={giveUp} />
          </Part>
        ))}
    </>
  )
}

function Heading({ ids, scenes }: { ids: string[]; scenes: Scene[] }) {
  const project = useProject((s) => s.id)
  const media = useProject((s) => s.document.media)
  const findings = useProject((s) => s.findings)
  const [typed, setTyped] = useState<string | null>(null)
  const [only] = scenes
  if (scenes.length > 1 || !only)
    return (
      <div className="border-b hairline px-4 py-3">
        <h2 className="font-heading text-[15px] font-semibold">{scenes.length} scenes</h2>
        <p className="text-[12px] text-soft">What you change here changes in all of them. A dash stands where they differ.</p>
      </div>
    )
  const photo = Object.values(only.layers ?? {})[0]
  const picture = photo && media?.[photo.media]
  const finding = findings[ids[0] ?? '']?.photos[0]
  const accept = () => {
    if (typed !== null && typed !== only.name) void edit({ edit: 'set_scenes', ids, name: typed.trim() })
    setTyped(null)
  }
  return (
    <div className="flex items-start gap-3 border-b hairline px-4 py-3">
      {photo && <img src={address.thumbnail(project, photo.media)} alt="" className="size-11 rounded object-cover" />}
      <div className="min-w-0 flex-1">
        <input aria-label="Name of the scene" value={typed ?? only.name ?? ''} onChange={(e) => setTyped(e.target.value)} onBlur={accept} onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()} className="-ml-1 w-full truncate rounded bg-transparent px-1 font-semibold hover:bg-deep focus:bg-card" />
        {picture && (
          <p className="text-[12px] text-soft">
            {picture.width} × {picture.height} px
            {finding && (
              <>
                {' · '}
                <span className={finding.soft ? 'font-semibold text-rowan' : ''} title="Film pixels one picture pixel is spread over at the closest moment of the move; above 1 it begins to look soft">
                  largest use {finding.largest_use.toFixed(2)}×
                </span>
                {finding.soft && <> — sharp up to {Math.round(finding.sharp_zoom * 100)} % of this zoom</>}
                {finding.sharp_zoom >= 1.1 && <> — may come {finding.sharp_zoom.toFixed(1)}× closer</>}
              </>
            )}
          </p>
        )}
      </div>
    </div>
  )
}

function Views({ layers, photos }: { layers: Photo[]; photos: { scene: string; layer: string }[] }) {
  const [which, setWhich] = useState<'opening' | 'closing'>('opening')
  const views = commonFields(layers.map((l) => (l.view.keys[which]?.value ?? {}) as Values)) as Partial<View>
  const arrange = (how: string) => void edit({ edit: 'arrange_views', photos, how })
  const eases = catalogue().eases
  const ease = common(
    layers.map((l) => {
      const [a, b] = [l.view.keys.opening, l.view.keys.closing]
      const found = eases.find((e) => Boolean(a?.hold) === e.hold && (e.hold || JSON.stringify([a?.ease_out, b?.ease_in]) === JSON.stringify([e.leave, e.arrive])))
      return found?.id ?? 'own'
    }),
  )
  return (
    <Part
      title="Views"
      source={
        <button type="button" className="text-tarn hover:underline" onClick={() => useProject.setState({ looking: 'views' })}>
          set them on the picture
        </button>
      }
    >
      <div className="mb-1.5 flex items-center justify-between">
        <Choice
          label="Which view"
          value={which}
          onSet={(v) => setWhich(v as typeof which)}
          choices={[
            ['opening', <span key="o" className="flex items-center gap-1.5"><span className="size-2 rounded-full bg-glow" /> Opening</span>],
            ['closing', <span key="c" className="flex items-center gap-1.5"><span className="size-2 rounded-full border-[1.5px] border-water" /> Closing</span>],
          ]}
        />
      </div>
      {VIEW.map(([key, label, low, high, step, unit, help]) => (
        <NumberField key={`${which}${key}`} label={label} help={help} value={views[key] ?? null} minimum={low} maximum={high} step={step} unit={unit} onTry={(v) => tryEdits([{ edit: 'set_views', photos, [which]: { [key]: v } }])} onSet={(v) => void edit({ edit: 'set_views', photos, [which]: { [key]: v } })} onGiveUp={() => tryEdits(null)} />
      ))}
      <div className="mt-1.5 flex h-8 items-center gap-2.5">
        <span className="w-[86px]">Ease</span>
        <select
          aria-label="Ease from the opening to the closing view"
          value={ease ?? ''}
          onChange={(e) => {
            const spec = eases.find((x) => x.id === e.target.value)
            if (spec) void edit({ edit: 'set_views', photos, ease: { leave: spec.leave, arrive: spec.arrive, hold: spec.hold } })
          }}
          className="h-7 flex-1 rounded-lg border hairline bg-card px-2"
        >
          {ease === null && <option value="">—</option>}
          {eases.map((e) => (
            <option key={e.id} value={e.id}>
              {e.label}
            </option>
          ))}
          {ease === 'own' && <option value="own">Own curve</option>}
        </select>
      </div>
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Button className="!h-7 !px-2.5" onClick={() => arrange('swap')}>
          <ArrowLeftRight size={13} /> Swap
        </Button>
        <Button className="!h-7 !px-2.5" title="The other view becomes like this one: no motion" onClick={() => arrange(which === 'opening' ? 'as_opening' : 'as_closing')}>
          <Equal size={13} /> Make equal
        </Button>
        <Button className="!h-7 !px-2.5" onClick={() => arrange('suggest')}>
          <Sparkles size={13} /> Suggest
        </Button>
      </div>
    </Part>
  )
}
