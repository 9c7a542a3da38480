import type { DialogProps } from '@/project/dialogs'
import { Dialog } from '@/ui/dialog'
import { KEYED } from './keyed'

/** Keys that belong to a part of the interface rather than to an action. */
const OTHERS: [string, string][] = [
  ['Go through the run sheet or contact sheet', 'Arrows'],
  ['Choose a range', 'Shift + arrows or click'],
  ['Choose one more', 'Ctrl + click'],
  ['Move the chosen scenes or pictures', 'Alt + arrows'],
  ['Enlarge a picture (contact sheet)', 'Space'],
  ['Put the chosen pictures into the film', 'Enter'],
  ['Move a handle, or the chosen layers', 'Arrows (Shift: ten steps)'],
  ['Move freely, without snapping', 'Ctrl + drag'],
  ['Copy a layer', 'Alt + drag'],
  ['Go through keyframes', 'Arrows (Shift: choose more)'],
  ['Move the chosen keyframes in time', 'Alt + ← →'],
  ['Change their value', 'Alt + ↑ ↓'],
  ['Enlarge the lanes’ time', 'Ctrl + wheel'],
  ['Move the picture in its window', 'Double click'],
  ['Resize the columns and the lanes, at their edges', 'Arrows (Home: as usual)'],
  ['Give up a drag', 'Escape'],
  ['Find any command', 'Ctrl K'],
]

export function KeyList({ onClose }: DialogProps) {
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Keys">
      <dl className="grid grid-cols-[1fr_auto] gap-x-6 gap-y-1.5">
        {[...KEYED.map((c) => [c.label, c.keys ?? ''] as const), ...OTHERS].map(([label, keys]) => (
          <div key={label} className="contents">
            <dt>{label}</dt>
            <dd className="font-mono text-[12px] text-soft">{keys}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  )
}
