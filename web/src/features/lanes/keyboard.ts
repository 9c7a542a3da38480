import type { KeyboardEvent } from 'react'
import type { KeyRef } from '@/api/client'
import { seek } from '@/playback/screen'
import type { Lanes } from '@/playback/socket'
import { edit } from '@/project/connection'
import { filmTime, type SceneTime } from '@/project/scene-time'
import { chooseKeys, useSession } from '@/project/session'
import { keyRef, sameKey } from './actions'
import { laneId } from './model'

type Row = { container: string; layer: string | null; property: string }

/** What the keyboard does at a keyframe: the arrows go from one to the next, with Alt they move those that are chosen. `frame`: ticks of a frame. */
export const keyframeKeys = (lanes: Lanes, frame: number, time: SceneTime, row: Row, id: string) => (event: KeyboardEvent) => {
  const laneIndex = lanes.rows.findIndex((r) => laneId(r) === laneId(row))
  const here = lanes.rows[laneIndex]
  const index = here?.keys.findIndex((k) => k.id === id) ?? -1
  if (!here || index < 0) return
  const go = (ref: KeyRef | null) => {
    if (!ref) return
    const kept = event.shiftKey ? useSession.getState().chosenKeys.filter((k) => !sameKey(k, ref)) : []
    chooseKeys([...kept, ref])
    requestAnimationFrame(() => document.getElementById(`key-${ref.scene}-${ref.layer ?? ''}-${ref.property}-${ref.key}`)?.focus())
  }
  const across = (way: number) => {
    const key = here.keys[index + way]
    go(key ? keyRef(here, key.id) : null)
  }
  const down = (way: number) => {
    const other = lanes.rows[laneIndex + way]
    const from = here.keys[index]?.at ?? 0
    const key = other?.keys.reduce((a, b) => (Math.abs(b.at - from) < Math.abs(a.at - from) ? b : a))
    go(other && key ? keyRef(other, key.id) : null)
  }
  const keys = useSession.getState().chosenKeys
  const many = event.shiftKey ? 10 : 1
  if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) void edit({ edit: 'shift_keys', keys, by: (event.key === 'ArrowLeft' ? -1 : 1) * frame * many })
  else if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
    const step = here.scale * (here.unit === '°' || here.unit === '%' ? 1 : 0.01)
    void edit({ edit: 'shift_keys', keys: keys.filter((k) => k.property === here.property), value: (event.key === 'ArrowUp' ? 1 : -1) * step * many })
  } else if (event.key === 'ArrowLeft') across(-1)
  else if (event.key === 'ArrowRight') across(1)
  else if (event.key === 'ArrowUp') down(-1)
  else if (event.key === 'ArrowDown') down(1)
  else if (event.key === 'Home' || event.key === 'End') go(keyRef(here, (event.key === 'Home' ? here.keys[0] : here.keys.at(-1))?.id ?? id))
  else if (event.key === 'Enter') seek(filmTime(here.keys[index]?.at ?? 0, time))
  else if (event.key === ' ') chooseKeys([keyRef(here, id)])
  else return
  event.preventDefault()
  event.stopPropagation()
}
