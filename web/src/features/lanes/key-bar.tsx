import { control } from '@/project/controls'
import type { Edit, EditOf } from '@/api/client'
import { ArrowLeftRight, ClipboardPaste, Copy, Trash2 } from 'lucide-react'
import { useGeometry } from '@/playback/screen'
import { catalogue } from '@/project/catalogue'
import { menuOf } from '@/project/command'
import { edit } from '@/project/connection'
import { tryEdits, useSession } from '@/project/session'
import { IconButton } from '@/ui/button'
import { Menu } from '@/ui/menu'
import { NumberField, type NumberProps } from '@/ui/number'
import { chosenMarks, copyKeys, deleteKeys, easeKeys, hasCopied, pasteKeys, selectedLanes } from './actions'

const ANCHORS = [
  ['start', 'from the start'],
  ['end', 'from the end'],
  ['fraction', 'share of the time'],
] as const
const VIEW_FIELDS = ['x', 'y', 'zoom', 'turn'] as const
const field = 'h-6 rounded-md border border-white/20 bg-pit px-1 text-[12px] text-chalk'

/** What is done to the chosen keys. */
export function KeyBar() {
  useSession((s) => s.chosenKeys)
  useGeometry((s) => s.geometry.lanes)
  const marks = chosenMarks()
  const paste = hasCopied() && (
    <IconButton size="tiny" kind="dark" label="Paste the copied keyframes at the playhead (Ctrl V)" onClick={() => void pasteKeys()}>
      <ClipboardPaste size={13} />
    </IconButton>
  )
  if (!marks.length) return <span className="flex items-center gap-2 text-[12px] text-ash">{paste}</span>
  const keys = useSession.getState().chosenKeys
  const same = <T,>(values: T[]): T | null => (values.every((v) => v === values[0]) ? (values[0] ?? null) : null)
  // An ease belongs to the interval after a key: of several chosen on a lane the last one's is not meant.
  const starts = marks.filter((m) => marks.filter((o) => o.row === m.row).length === 1 || marks.some((o) => o.row === m.row && o.key.at > m.key.at))
  const ease = same(starts.map((m) => m.key.ease))
  const anchor = same(marks.map((m) => m.key.anchor))
  const follow = same(starts.map((m) => JSON.stringify(m.key.follow))) ? starts[0]?.key.follow : null
  const number = marks.every((m) => m.row.kind === 'number') && same(marks.map((m) => m.row.property)) !== null ? marks[0] : undefined
  const view = marks.length === 1 && marks[0]?.row.kind === 'view' ? marks[0] : undefined
  const paths = selectedLanes().filter((l) => l.property.endsWith('.path'))
  const springy = (partial: Record<string, number>): Edit => ({ edit: 'ease_keys', keys, follow: { ...follow, ...partial } as EditOf<'ease_keys'>['follow'] })
  return (
    <div role="group" aria-label="Chosen keyframes" className="flex min-w-0 items-center gap-1.5 text-[12px] *:shrink-0">
      <span className="whitespace-nowrap font-mono text-[11px] text-glow">{marks.length === 1 ? '1 key' : `${marks.length} keys`}</span>
      <select aria-label="Ease of the chosen keyframes" value={ease ?? ''} onChange={(e) => void easeKeys(e.target.value)} className={`${field} min-w-[84px] !shrink`}>
        {ease === null && <option value="">ease…</option>}
        {catalogue().eases.map((e) => (
          <option key={e.id} value={e.id}>
            {e.label}
          </option>
        ))}
        {ease === 'own' && <option value="own">Own curve</option>}
      </select>
      {follow?.kind === 'spring' && (
        <>
          <Small {...control('spring.stiffness')} value={Number(follow.stiffness)} onTry={(v) => tryEdits([springy({ stiffness: v })])} onSet={(v) => void edit(springy({ stiffness: v }))} />
          <Small {...control('spring.damping')} value={Number(follow.damping)} onTry={(v) => tryEdits([springy({ damping: v })])} onSet={(v) => void edit(springy({ damping: v }))} />
        </>
      )}
      {follow?.kind === 'bounce' && (
        <>
          <Small {...control('bounce.keeps')} value={Number(follow.keeps)} onTry={(v) => tryEdits([springy({ keeps: v })])} onSet={(v) => void edit(springy({ keeps: v }))} />
          <Small {...control('bounce.times')} value={Number(follow.times)} onSet={(v) => void edit(springy({ times: v }))} />
        </>
      )}
      {number && typeof number.key.value === 'number' && (
        <Small
          label="Value"
          value={number.key.value}
          scale={number.row.scale}
          unit={number.row.unit}
          minimum={number.row.low}
          maximum={number.row.high}
          step={number.row.step}
          onTry={(v) => tryEdits([{ edit: 'set_keys', keys, value: v }])}
          onSet={(v) => void edit({ edit: 'set_keys', keys, value: v })}
        />
      )}
      {view &&
        VIEW_FIELDS.map((name, i) => (
          <Small
            key={name}
            {...control(`view.${name}`)}
            label={`View ${control(`view.${name}`).label.toLowerCase()}`}
            value={(view.key.value as number[])[i] ?? 0}
            onTry={(v) => tryEdits([{ edit: 'set_keys', keys, view: { [name]: v } }])}
            onSet={(v) => void edit({ edit: 'set_keys', keys, view: { [name]: v } })}
          />
        ))}
      <select
        aria-label="What the keyframes’ time counts from"
        title="A stretched scene keeps what counts from its start or end"
        value={anchor ?? ''}
        onChange={(e) => void edit({ edit: 'set_keys', keys, anchor: e.target.value as EditOf<'set_keys'>['anchor'] })}
        className={`${field} hidden min-[1420px]:block`}
      >
        {anchor === null && <option value="">anchor…</option>}
        {ANCHORS.map(([id, label]) => (
          <option key={id} value={id}>
            {label}
          </option>
        ))}
      </select>
      <Menu
        align="start"
        trigger={
          <button type="button" title="Turn the chosen keyframes round, and more" className="flex h-6 shrink-0 items-center gap-1 whitespace-nowrap rounded-md px-1.5 hover:bg-white/10">
            <ArrowLeftRight size={12} /> <span className="sr-only min-[1420px]:not-sr-only">Turn</span>
          </button>
        }
        entries={async () => {
          const { KEYS, PATHS, BENT, REMOVE_LANES } = await import('./commands')
          return menuOf([...KEYS, ...(paths.length ? (['rule', ...PATHS, ...BENT] as const) : []), 'rule', REMOVE_LANES])
        }}
      />
      <IconButton size="tiny" kind="dark" label="Copy the chosen keyframes (Ctrl C)" onClick={copyKeys}>
        <Copy size={13} />
      </IconButton>
      {paste}
      <IconButton size="tiny" kind="dark" label="Delete the chosen keyframes (Delete)" onClick={() => void deleteKeys()}>
        <Trash2 size={13} />
      </IconButton>
    </div>
  )
}

function Small(props: Pick<NumberProps, 'label' | 'value' | 'minimum' | 'maximum' | 'step' | 'unit' | 'scale' | 'whole' | 'onTry' | 'onSet'>) {
  return <NumberField compact {...props} slider={false} onGiveUp={() => tryEdits(null)} />
}
