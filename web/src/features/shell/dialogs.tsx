import { type ComponentType, useEffect, useState } from 'react'
import { closeDialog, type DialogName, type DialogProps, useDialogs } from '@/project/dialogs'
import { say } from '@/ui/notices'

/** Where each dialog comes from, when it is first opened. A new one: a line here, and its name. */
const SOURCES: Record<DialogName, () => Promise<ComponentType<DialogProps>>> = {
  export: () => import('@/features/export/export-panel').then((m) => m.ExportPanel),
  settings: () => import('./project-settings').then((m) => m.ProjectSettings),
  frame: () => import('@/features/reframe/reframe').then((m) => m.Reframe),
  versions: () => import('./versions').then((m) => m.Versions),
  keys: () => import('@/features/commands/key-list').then((m) => m.KeyList),
  commands: () => import('@/features/commands/command-list').then((m) => m.CommandList),
  looks: () => import('@/features/looks/look-picker').then((m) => m.LookPicker),
  carry: () => import('@/features/carry/carry').then((m) => m.Carry),
  layout: () => import('@/features/layouts/layout-picker').then((m) => m.LayoutPicker),
  times: () => import('@/features/run-sheet/times-dialog').then((m) => m.TimesDialog),
  join: () => import('@/features/joins/join-picker').then((m) => m.JoinPicker),
  move: () => import('@/features/motion/move-picker').then((m) => m.LayerMovePicker),
  entrance: () => import('@/features/motion/move-picker').then((m) => m.EntrancePicker),
  exit: () => import('@/features/motion/move-picker').then((m) => m.ExitPicker),
  'camera-move': () => import('@/features/motion/move-picker').then((m) => m.CameraMovePicker),
  'add-photos': () => import('@/features/layers/pickers').then((m) => m.AddPhotos),
  'replace-picture': () => import('@/features/layers/pickers').then((m) => m.ReplacePicture),
  'make-music': () => import('@/features/sound/making').then((m) => m.MakeMusic),
  'cut-on-beats': () => import('@/features/sound/cutting').then((m) => m.CutOnBeats),
}

const loaded = new Map<DialogName, ComponentType<DialogProps>>()

/** The dialog that is open, if one is. Going back in the browser closes it. */
export function Dialogs() {
  const open = useDialogs((s) => s.open)
  const [, drawAgain] = useState(0)
  const Shown = open ? loaded.get(open) : undefined
  useEffect(() => {
    if (!open || loaded.has(open)) return
    SOURCES[open]().then(
      (found) => {
        loaded.set(open, found)
        drawAgain((n) => n + 1)
      },
      () => {
        closeDialog()
        say('This could not be loaded: the server does not answer. Try it again in a moment.', 'fault')
      },
    )
  }, [open])
  useEffect(() => {
    window.addEventListener('popstate', closeDialog)
    return () => {
      window.removeEventListener('popstate', closeDialog)
      closeDialog()
    }
  }, [])
  return Shown ? <Shown key={open} onClose={closeDialog} /> : null
}
