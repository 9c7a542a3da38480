import type { Command } from '@/project/command'
import { goToTable } from '@/project/places'

const TABLE: Command = { id: 'film-table', label: 'Films from a table', words: 'csv spreadsheet many rows batch names', run: goToTable }

export const tableCommands = [TABLE]
