import { type ComponentType, useEffect } from 'react'
import { closeDialog, type DialogName, type DialogProps, useDialogs } from '@/project/dialogs'
import { later } from '@/ui/later'

/** Where each dialog comes from, when it is first opened. A new one: a line here, and its name. */
const DIALOGS: Record<DialogName, ComponentType<DialogProps>> = {
  export: later(() => import('@/features/export').then((m) => m.ExportPanel)),
  settings: later(() => import('./project-settings').then((m) => m.ProjectSettings)),
  frame: later(() => import('@/features/reframe').then((m) => m.Reframe)),
  waiting: later(() => import('./waiting').then((m) => m.Waiting)),
  versions: later(() => import('./versions').then((m) => m.Versions)),
  keys: later(() => import('@/features/commands/key-list').then((m) => m.KeyList)),
  commands: later(() => import('@/features/commands/command-list').then((m) => m.CommandList)),
  looks: later(() => import('@/features/looks/look-picker').then((m) => m.LookPicker)),
  carry: later(() => import('@/features/carry').then((m) => m.Carry)),
  layout: later(() => import('@/features/layouts/layout-picker').then((m) => m.LayoutPicker)),
  library: later(() => import('@/features/templates/library').then((m) => m.Library)),
  renewal: later(() => import('@/features/templates/renewal').then((m) => m.Renewal)),
  trying: later(() => import('@/features/templates/trying').then((m) => m.Trying)),
  times: later(() => import('@/features/run-sheet/times-dialog').then((m) => m.TimesDialog)),
  join: later(() => import('@/features/joins/join-picker').then((m) => m.JoinPicker)),
  move: later(() => import('@/features/motion/move-picker').then((m) => m.LayerMovePicker)),
  entrance: later(() => import('@/features/motion/move-picker').then((m) => m.EntrancePicker)),
  exit: later(() => import('@/features/motion/move-picker').then((m) => m.ExitPicker)),
  'camera-move': later(() => import('@/features/motion/move-picker').then((m) => m.CameraMovePicker)),
  'add-photos': later(() => import('@/features/layers/pickers').then((m) => m.AddPhotos)),
  'replace-picture': later(() => import('@/features/layers/pickers').then((m) => m.ReplacePicture)),
  'make-music': later(() => import('@/features/sound/making').then((m) => m.MakeMusic)),
  titles: later(() => import('@/features/letters/title-picker').then((m) => m.TitlePicker)),
  styles: later(() => import('@/features/letters/style-picker').then((m) => m.StylePicker)),
  faces: later(() => import('@/features/letters/face-picker').then((m) => m.FacePicker)),
  details: later(() => import('@/features/letters/details-dialog').then((m) => m.DetailsDialog)),
  'cut-on-beats': later(() => import('@/features/sound/cutting').then((m) => m.CutOnBeats)),
}

/** The dialog that is open, if one is. Going back in the browser closes it. */
export function Dialogs() {
  const open = useDialogs((s) => s.open)
  const Shown = open && DIALOGS[open]
  // Over a full screen nothing else is seen: it ends.
  useEffect(() => {
    if (!open) return
    const leave = () => {
      if (document.fullscreenElement) void document.exitFullscreen().catch(() => undefined)
    }
    leave()
    document.addEventListener('fullscreenchange', leave)
    return () => document.removeEventListener('fullscreenchange', leave)
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
