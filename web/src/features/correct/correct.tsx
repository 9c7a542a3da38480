import { control } from '@/project/controls'
import { ChevronLeft, ChevronRight, FlipHorizontal2, FlipVertical2, RotateCcw, RotateCw, Wand2 } from 'lucide-react'
import { useEffect, useState } from 'react'
import { client, type Edit, settled } from '@/api/client'
import { Parameters } from '@/features/parameters'
import { commonFields, type Values } from '@/project/common'
import { neighbour, typing } from '@/interaction/choosing'
import { catalogue } from '@/project/catalogue'
import { edit } from '@/project/connection'
import { useProject } from '@/project/project'
import { Button, IconButton } from '@/ui/button'
import { Choice } from '@/ui/choice'
import { Dialog } from '@/ui/dialog'
import { NumberField } from '@/ui/number'
import { ClipFields } from './clip-fields'
import { useDeveloped } from './developed'
import { Histogram } from './histogram'
import { LightStage } from './light-stage'
import { type Ratio, RatioFields, ShapeStage, type Tool } from './shape-stage'

type Props = { order: string[]; id: string; chosen: string[]; onChange: (id: string | null) => void }

/** One picture large, to look at, to correct and to shape; what is changed reaches all chosen pictures if wanted. */
export function Correct({ order, id, chosen, onChange }: Props) {
  const media = useProject((s) => s.document.media?.[id])
  const project = useProject((s) => s.id)
  const [mode, setMode] = useState<'light' | 'shape'>('light')
  const [tool, setTool] = useState<Tool>('crop')
  const [ratio, setRatio] = useState<Ratio>('free')
  const [all, setAll] = useState(false)
  const [tried, setTried] = useState<Values | null>(null)
  const several = chosen.length > 1 && chosen.includes(id)
  const ids = several && all ? chosen : [id]

  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      // The key that opened this arrives here, too.
      if (event.defaultPrevented || typing(event.target)) return
      const way = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
      const to = way ? neighbour(order, id, way) : undefined
      if (to) onChange(to)
      else if (event.key === ' ' && !(event.target instanceof HTMLButtonElement)) {
        event.preventDefault()
        onChange(null)
      }
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [order, id, onChange])

  const triedEdits: Edit[] = tried ? [{ edit: 'set_pictures', ids: [id], correction: tried }] : []
  const uncropped = mode === 'shape' && tool !== 'line'
  const picture = useDeveloped(id, triedEdits, uncropped)
  if (!media) return null

  const part = catalogue().look_parts.find((p) => p.id === 'correction')
  const defaults = Object.fromEntries((part?.parameters ?? []).map((p) => [p.id, p.default]))
  const values: Values = { ...defaults, ...(media.correction ?? {}), ...tried }
  const set = (partial: Values) => {
    void edit({ edit: 'set_pictures', ids, correction: partial }).then(() => setTried(null))
  }
  const suggest = async () => {
    for (const one of ids) {
      const { correction } = await settled(client.GET('/api/projects/{project}/pictures/{media}/suggestion', { params: { path: { project, media: one } } }))
      await edit({ edit: 'set_pictures', ids: [one], correction })
    }
  }
  const size = `${media.width} × ${media.height} pixels`
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onChange(null)}
      wide
      title={media.name}
      description={`${size}${media.captured ? ` · ${media.captured.replace('T', ' ').slice(0, 16)}` : ''}${media.description ? ` · ${media.description}` : ''}`}
    >
      <div className="grid grid-cols-[minmax(0,1fr)_282px] gap-5">
        <div className="flex min-w-0 items-center gap-1.5">
          <IconButton label="The picture before" onClick={() => onChange(neighbour(order, id, -1) ?? id)}>
            <ChevronLeft size={20} />
          </IconButton>
          <div className="grid h-[62vh] min-w-0 flex-1 place-items-center rounded-lg bg-easel">
            {picture.fault && <p className="px-6 text-center text-white">{picture.fault}</p>}
            {!picture.fault && mode === 'light' && <LightStage id={id} url={picture.url} name={media.name} corrected={Boolean(media.correction || tried)} />}
            {!picture.fault && mode === 'shape' && <ShapeStage id={id} media={media} url={picture.url} tool={tool} ratio={ratio} onToolDone={() => setTool('crop')} />}
          </div>
          <IconButton label="The next picture" onClick={() => onChange(neighbour(order, id, 1) ?? id)}>
            <ChevronRight size={20} />
          </IconButton>
        </div>
        <div className="max-h-[62vh] min-w-0 overflow-y-auto pr-1">
          <Choice
            label="What to change"
            value={mode}
            choices={[
              ['light', 'Light & colour'],
              ['shape', media.clip ? 'Shape & times' : 'Shape'],
            ]}
            onSet={(v) => setMode(v as typeof mode)}
          />
          {several && (
            <label className="mt-2.5 flex items-center gap-2 rounded-lg bg-deep px-2.5 py-1.5">
              <input type="checkbox" checked={all} onChange={(e) => setAll(e.target.checked)} /> Change all {chosen.length} chosen pictures
            </label>
          )}
          {mode === 'light' ? (
            <div className="mt-2.5">
              <div className="mb-2 flex gap-1.5">
                <Button size="small" onClick={() => void suggest()}>
                  <Wand2 size={14} /> Suggest
                </Button>
                <Button size="small" disabled={!media.correction} onClick={() => void edit({ edit: 'set_pictures', ids, correction: null })}>
                  As it was taken
                </Button>
              </div>
              <Histogram media={id} edits={triedEdits} />
              <Parameters parameters={part?.parameters ?? []} values={commonFields([values])} onTry={(p) => setTried((t) => ({ ...t, ...p }))} onSet={set} onGiveUp={() => setTried(null)} />
            </div>
          ) : (
            <div className="mt-2.5 space-y-3">
              <div className="flex gap-1">
                <IconButton kind="plain" label="A quarter turn to the left" onClick={() => void edit({ edit: 'turn_pictures', ids, quarters: -1 })}>
                  <RotateCcw size={16} />
                </IconButton>
                <IconButton kind="plain" label="A quarter turn to the right" onClick={() => void edit({ edit: 'turn_pictures', ids, quarters: 1 })}>
                  <RotateCw size={16} />
                </IconButton>
                <IconButton kind="plain" label="Flip left to right" onClick={() => void edit({ edit: 'flip_pictures', ids, axis: 'across' })}>
                  <FlipHorizontal2 size={16} />
                </IconButton>
                <IconButton kind="plain" label="Flip top to bottom" onClick={() => void edit({ edit: 'flip_pictures', ids, axis: 'down' })}>
                  <FlipVertical2 size={16} />
                </IconButton>
              </div>
              <div>
                <p className="mb-1 text-[12px] text-soft">On the picture</p>
                <Choice
                  label="What the pointer does on the picture"
                  value={tool}
                  choices={[
                    ['crop', 'Crop'],
                    ['line', 'Straighten'],
                    ['subject', 'Subject'],
                  ]}
                  onSet={(v) => setTool(v as Tool)}
                />
                <p className="mt-1.5 text-[12px] text-soft">
                  {tool === 'crop'
                    ? 'Drag the corners or the inside of the frame.'
                    : tool === 'line'
                      ? 'Draw a line along something level or upright.'
                      : 'What must stay in view when the frame’s shape changes.'}
                </p>
              </div>
              {tool === 'crop' && <RatioFields ratio={ratio} onSet={setRatio} />}
              <NumberField {...control('shape.straighten')} value={media.straighten ?? 0} onSet={(v) => void edit({ edit: 'set_pictures', ids, straighten: v })} />
              <div className="flex flex-wrap gap-1.5">
                <Button size="small" disabled={!media.crop && !media.straighten} onClick={() => void edit({ edit: 'set_pictures', ids, crop: null, straighten: 0 })}>
                  All of the picture
                </Button>
                <Button size="small" disabled={!media.subject} onClick={() => void edit({ edit: 'set_pictures', ids, subject: null })}>
                  No subject
                </Button>
              </div>
              {media.clip && <ClipFields id={id} clip={media.clip} />}
            </div>
          )}
        </div>
      </div>
    </Dialog>
  )
}
