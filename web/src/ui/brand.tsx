import { Moon, Sun } from 'lucide-react'
import { Link } from 'react-router'
import { IconButton } from '@/ui/button'
import { setTheme, useTheme } from './theme'

export function Brand() {
  return (
    <Link to="/" className="flex shrink-0 items-center gap-2.5 whitespace-nowrap rounded-md" aria-label="Oak Lens, all projects">
      <img src="/icon.svg" alt="" className="size-[19px]" />
      <span className="font-heading text-[17px] font-semibold">Oak Lens</span>
    </Link>
  )
}

export function ThemeSwitch() {
  const theme = useTheme((s) => s.theme)
  return (
    <IconButton label={theme === 'dark' ? 'Light paper' : 'All dark, for night work'} onClick={() => setTheme(theme === 'dark' ? 'paper' : 'dark')}>
      {theme === 'dark' ? <Sun size={16} /> : <Moon size={16} />}
    </IconButton>
  )
}
