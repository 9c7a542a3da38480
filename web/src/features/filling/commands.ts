import type { Command } from '@/project/command'
import { goToFilling } from '@/project/places'

export const FILL: Command = { id: 'filling', label: 'Fill step by step', words: 'guided path choose add adjust template simple', run: goToFilling }

export const fillingCommands = [FILL]
