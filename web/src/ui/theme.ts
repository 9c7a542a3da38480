import { create } from 'zustand'

export type Theme = 'paper' | 'dark'
const KEY = 'oak-theme'

const read = (): Theme => (localStorage.getItem(KEY) === 'dark' ? 'dark' : 'paper')

export const useTheme = create<{ theme: Theme }>()(() => ({ theme: read() }))

export function setTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme)
  document.documentElement.dataset.theme = theme
  useTheme.setState({ theme })
}

export const startTheme = () => setTheme(read())
