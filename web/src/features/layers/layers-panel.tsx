import { calledOf } from '@/project/kinds'
import { Copy, Eye, EyeOff, Film, Folder, FolderOpen, Image, Lock, LockOpen, Plus, Shapes, Sun, Trash2, Type } from 'lucide-react'
import { type KeyboardEvent, type MouseEvent, type ReactNode, useEffect, useMemo, useRef, useState } from 'react'
import type { Layer, LayerRef } from '@/api/client'
import { chosenAfter } from '@/interaction/choosing'
import { useReorder } from '@/interaction/reorder'
import { inOrder } from '@/project/ordering'
import { edit } from '@/project/connection'
import { layersOf, useProject, useSceneAlone } from '@/project/project'
import { useSession } from '@/project/session'
import { IconButton } from '@/ui/button'
import { InsertionMark } from '@/ui/insertion-mark'
import { Menu, type MenuEntry } from '@/ui/menu'
import { menuOf } from '@/project/command'
import { duplicateLayers, removeLayers } from './layer-actions'
import { rename, useRenaming } from './renaming'

type Row = { key: string; ref: LayerRef; layer: Layer; depth: number; open: boolean }

const keyOf = (r: LayerRef) => `${r.scene}/${r.layer}`

/** The layers of the chosen scene, the topmost first. */
export function LayersPanel({ scene }: { scene: string }) {
  const document = useSceneAlone(scene)
  const chosen = useSession((s) => s.chosenLayers)
  const [opened, setOpened] = useState<string[]>([])
  const rows = useMemo(() => listed(document, scene, opened), [document, scene, opened])
  const order = rows.map((r) => r.key)
  const chosenKeys = chosen.map(keyOf)
  // A chosen layer is seen: the groups that it is in open, and the list goes to it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a group that is closed, or made of what is chosen, stays closed until another choice
  useEffect(() => {
    const holders = chosen.flatMap((ref) => groupsAround(document, scene, ref))
    if (holders.length) setOpened((o) => (holders.every((h) => o.includes(h)) ? o : [...new Set([...o, ...holders])]))
    const last = chosen.at(-1)
    if (last) requestAnimationFrame(() => window.document.getElementById(`layer-${keyOf(last)}`)?.scrollIntoView({ block: 'nearest' }))
  }, [chosenKeys.join()])
  const select = (keys: string[]) => useSession.setState({ chosenLayers: keys.map((k) => rows.find((r) => r.key === k)?.ref).filter((r): r is LayerRef => Boolean(r)), target: 'layer' })
  const click = (key: string, event: MouseEvent) =>
    select(
      chosenAfter(
        order,
        chosenKeys.filter((k) => order.includes(k)),
        key,
        { toggle: event.ctrlKey || event.metaKey, range: event.shiftKey },
      ),
    )

  const moveTo = (moving: Row, target: Row, downwards: boolean) => {
    if (moving.ref.scene !== target.ref.scene) return
    const level = rows.filter((r) => r.ref.scene === target.ref.scene && (r.layer.parent ?? null) === (target.layer.parent ?? null) && r.key !== moving.key)
    const at = level.findIndex((r) => r.key === target.key)
    // Rows are listed from the top: below the target when going down, above it when going up.
    const below = downwards ? target.ref.layer : (level[at - 1]?.ref.layer ?? null)
    const refs = chosenKeys.includes(moving.key) ? chosen.filter((r) => r.scene === moving.ref.scene) : [moving.ref]
    void edit({ edit: 'move_layers', layers: refs, below, parent: target.layer.parent ?? null })
  }
  const list = useRef<HTMLUListElement>(null)
  const reorder = useReorder({
    list,
    order,
    moving: (key) => (chosenKeys.includes(key) ? chosenKeys : [key]),
    onMove: (keys, before) => dropped(rows, keys, before),
  })
  const onKeyDown = (event: KeyboardEvent) => {
    const at = order.indexOf(chosenKeys.at(-1) ?? '')
    const row = rows[at]
    const way = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0
    const next = rows[at + way]
    if (way && event.altKey && row && next) moveTo(row, next, way > 0)
    else if (way && next) {
      select(event.shiftKey ? [...new Set([...chosenKeys, next.key])] : [next.key])
      window.document.getElementById(`layer-${next.key}`)?.focus()
    } else if (event.key === 'Delete' && chosen.length) void removeLayers()
    else if (event.key === 'Escape') select([])
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  return (
    <section aria-label="Layers" className="border-b hairline px-2.5 pb-2.5 pt-2">
      <div className="flex items-center gap-0.5 px-1.5">
        <h3 className="flex-1 font-heading text-[15px] font-semibold">Layers</h3>
        <IconButton size="tiny" label="Duplicate the chosen layers" disabled={!chosen.length} onClick={() => void duplicateLayers()}>
          <Copy size={13} />
        </IconButton>
        <IconButton size="tiny" label="Delete the chosen layers" disabled={!chosen.length} onClick={() => void removeLayers()}>
          <Trash2 size={13} />
        </IconButton>
        <Menu
          trigger={
            <IconButton size="tiny" label="More for layers">
              <span aria-hidden="true">⋯</span>
            </IconButton>
          }
          entries={grouping}
        />
        <Menu
          trigger={
            <IconButton size="tiny" label="Add a layer">
              <Plus size={15} />
            </IconButton>
          }
          entries={adding}
        />
      </div>
      <div data-scroller className="mt-1 max-h-[min(204px,18vh)] overflow-y-auto" onKeyDown={onKeyDown}>
        <ul ref={list} aria-label="Layers, topmost first" className="relative">
          {rows.map((row) => (
            <LayerRow
              key={row.key}
              row={row}
              chosen={chosenKeys.includes(row.key)}
              tabbable={row.key === (chosenKeys.at(-1) ?? order[0])}
              dragged={reorder.drag?.ids.includes(row.key) ?? false}
              handle={reorder.handle(row.key)}
              onClick={(key, e) => !reorder.wasDrag() && click(key, e)}
              onOpen={() => setOpened((o) => (o.includes(row.key) ? o.filter((k) => k !== row.key) : [...o, row.key]))}
            />
          ))}
          {reorder.drag && (
            <li>
              <InsertionMark y={reorder.drag.y} />
            </li>
          )}
        </ul>
        {!rows.length && <p className="px-1.5 py-1 text-[12px] text-soft">Nothing but the backdrop. Add a photo or a shape with +.</p>}
      </div>
    </section>
  )
}

/** What is done to the chosen layers as a whole, as a menu. */
async function grouping(): Promise<MenuEntry[]> {
  const [{ GROUPING }, { LAY_OUT }] = await Promise.all([import('./commands'), import('@/features/layouts/commands')])
  return menuOf([...GROUPING, 'rule', LAY_OUT])
}

/** What can be added, as a menu. */
async function adding(): Promise<MenuEntry[]> {
  const [{ ADD_PHOTOS, SHAPES, sharedGroups }, { ADD_TEXT, CHOOSE_TITLE }] = await Promise.all([import('./commands'), import('@/features/letters/commands')])
  const shared = sharedGroups()
  return menuOf([ADD_PHOTOS, 'rule', ADD_TEXT, CHOOSE_TITLE, 'rule', ...SHAPES, ...(shared.length ? (['rule', ...shared] as const) : [])])
}

/** Rows from the top, what is in an opened group under it. */
function listed(document: Parameters<typeof layersOf>[0], scene: string, opened: string[]): Row[] {
  const found: Row[] = []
  const walk = (container: string, parent: string | null, depth: number) => {
    for (const [id, layer] of inOrder(layersOf(document, container)).reverse()) {
      if ((layer.parent ?? null) !== parent) continue
      const ref = { scene: container, layer: id }
      const open = layer.kind === 'group' && opened.includes(keyOf(ref))
      found.push({ key: keyOf(ref), ref, layer, depth, open })
      if (open && depth < 8) walk(layer.kind === 'group' && layer.shared ? layer.shared : container, layer.kind === 'group' && layer.shared ? null : id, depth + 1)
    }
  }
  walk(scene, null, 0)
  return found
}

/** Keys of the groups of a scene that a layer is in. */
function groupsAround(document: Parameters<typeof layersOf>[0], scene: string, ref: LayerRef): string[] {
  const found: string[] = []
  let at: LayerRef | undefined = ref
  for (let step = 0; at && step < 20; step += 1) {
    const { scene: container, layer }: LayerRef = at
    const parent: string | null | undefined = layersOf(document, container)[layer]?.parent
    const holder: string | undefined = parent ?? (container === scene ? undefined : Object.entries(layersOf(document, scene)).find(([, l]) => l.kind === 'group' && l.shared === container)?.[0])
    at = holder === undefined ? undefined : { scene: parent ? container : scene, layer: holder }
    if (at) found.push(keyOf(at))
  }
  return found
}

/** Layers dragged to a gap: they join the level of the row after it (at the end: of the row before), just under what is above them there. */
function dropped(rows: Row[], keys: string[], before: string | null): void {
  const at = before === null ? rows.length : rows.findIndex((r) => r.key === before)
  const level = rows.slice(at).find((r) => !keys.includes(r.key)) ?? rows.filter((r) => !keys.includes(r.key)).at(-1)
  const moving = rows.filter((r) => keys.includes(r.key) && r.ref.scene === level?.ref.scene)
  if (!level || !moving.length) return
  const above = rows.slice(0, at).filter((r) => !keys.includes(r.key) && r.ref.scene === level.ref.scene && (r.layer.parent ?? null) === (level.layer.parent ?? null))
  void edit({ edit: 'move_layers', layers: moving.map((r) => r.ref), below: above.at(-1)?.ref.layer ?? null, parent: level.layer.parent ?? null })
}

type RowProps = { row: Row; chosen: boolean; tabbable: boolean; dragged: boolean; handle: object; onClick: (key: string, event: MouseEvent) => void; onOpen: () => void }

function LayerRow({ row, chosen, tabbable, dragged, handle, onClick, onOpen }: RowProps) {
  const { key, ref, layer, depth, open } = row
  const media = useProject((s) => (layer.kind === 'photo' ? s.document.media?.[layer.media] : undefined))
  const [text, setTyped] = useState<string | null>(null)
  const naming = useRenaming((s) => s.layer === key)
  const name = useProject((s) => calledOf(s, ref))
  const typed = naming ? (text ?? name) : null
  const Icon = layer.kind === 'group' ? (open ? FolderOpen : Folder) : layer.kind === 'shape' ? Shapes : layer.kind === 'text' ? Type : media?.kind === 'clip' ? Film : Image
  const set = (partial: Record<string, unknown>) => void edit({ edit: 'set_layers', layers: [ref], ...partial })
  const giveUp = () => {
    rename(null)
    setTyped(null)
  }
  const accept = () => {
    if (typed?.trim() && typed.trim() !== layer.name) set({ name: typed.trim() })
    giveUp()
  }
  const toggle = (label: string, on: boolean, run: () => void, icon: ReactNode) => (
    <button
      type="button"
      aria-label={`${label} ${name}`}
      aria-pressed={on}
      title={label}
      onClick={run}
      className={`grid size-5 place-items-center rounded hover:bg-deep ${on ? 'text-brass' : 'text-soft/70'}`}
    >
      {icon}
    </button>
  )
  return (
    <li data-row={key} className={`flex h-7 items-center rounded-md pr-1 ${chosen ? 'bg-card ring-1 ring-brass/60' : 'hover:bg-deep'} ${dragged ? 'opacity-45' : layer.hidden ? 'opacity-55' : ''}`}>
      <button
        {...handle}
        type="button"
        id={`layer-${key}`}
        tabIndex={tabbable ? 0 : -1}
        aria-pressed={chosen}
        onClick={(e) => onClick(key, e)}
        onDoubleClick={() => rename(key)}
        style={{ paddingLeft: 6 + depth * 14 }}
        className="flex min-w-0 flex-1 items-center gap-1.5 text-left"
      >
        <Icon size={14} className="shrink-0 text-soft" />
        {typed === null && <span className="truncate">{name}</span>}
        {layer.kind === 'group' && layer.shared && <span className="text-[11px] text-soft">shared</span>}
      </button>
      {typed !== null && (
        <input
          // biome-ignore lint/a11y/noAutofocus: it appears because somebody asked to rename
          autoFocus
          aria-label="Name of the layer"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={accept}
          onKeyDown={(e) => {
            e.stopPropagation()
            if (e.key === 'Enter') accept()
            if (e.key === 'Escape') giveUp()
          }}
          className="h-5 min-w-0 flex-[3] rounded bg-paper px-1"
        />
      )}
      {layer.kind === 'group' && toggle(open ? 'Close' : 'Open', open, onOpen, open ? <FolderOpen size={12} /> : <Folder size={12} />)}
      {toggle('Solo', layer.solo ?? false, () => set({ solo: !layer.solo }), <Sun size={12} />)}
      {toggle('Lock', layer.locked ?? false, () => set({ locked: !layer.locked }), layer.locked ? <Lock size={12} /> : <LockOpen size={12} />)}
      {toggle('Hide', layer.hidden ?? false, () => set({ hidden: !layer.hidden }), layer.hidden ? <EyeOff size={12} /> : <Eye size={12} />)}
    </li>
  )
}
