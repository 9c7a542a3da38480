import { Crop, LayoutGrid, LayoutTemplate, MoreHorizontal, RotateCw, SlidersHorizontal, Trash2 } from 'lucide-react'
import { menuOf } from '@/project/command'
import { Button, IconButton } from '@/ui/button'
import { Menu } from '@/ui/menu'
import { CORRECT, MORE, REMOVE, TOGETHER, TREAT, TRIM, TURN } from './commands'

const BUTTONS = [
  [CORRECT, SlidersHorizontal],
  [TURN, RotateCw],
  [TRIM, Crop],
  [TOGETHER, LayoutGrid],
  [TREAT, LayoutTemplate],
] as const

/** What can be done to the chosen pictures. */
export function ChosenBar({ count }: { count: number }) {
  return (
    <>
      {BUTTONS.map(([command, Icon]) => (
        <Button key={command.id} kind="quiet" disabled={command === TOGETHER && count < 2} onClick={command.run}>
          <Icon size={15} /> {command.short}
        </Button>
      ))}
      <Menu
        align="start"
        trigger={
          <IconButton label="More for the chosen pictures">
            <MoreHorizontal size={16} />
          </IconButton>
        }
        entries={async () => menuOf(MORE)}
      />
      <IconButton label={REMOVE.label} onClick={REMOVE.run}>
        <Trash2 size={16} />
      </IconButton>
    </>
  )
}
