import type { ComponentType } from 'react'
import { kindOf } from '@/project/kinds'
import type { Chosen, PartProps } from '@/project/chosen'
import { FitPart, MaskPart, PlacementPart, WindowPart } from './place-parts'
import { later } from '@/ui/later'

type LatePart = PartProps & { onClose?: () => void }

// Chapters other than the first are loaded when they are first opened.
const MotionPart = later<LatePart>(() => import('@/features/motion/motion-part').then((m) => m.MotionPart))
const Views = later<LatePart>(() => import('./views-part').then((m) => m.Views))
const LookPart = later<LatePart>(() => import('./look-parts').then((m) => m.LookPart))
const OwnParts = later<LatePart>(() => import('./look-parts').then((m) => m.OwnParts))
const MountPart = later<LatePart>(() => import('./look-parts').then((m) => m.MountPart))
const PhotoShadowPart = later<LatePart>(() => import('./look-parts').then((m) => m.PhotoShadowPart))
const ShadowPart = later<LatePart>(() => import('./look-parts').then((m) => m.ShadowPart))
const CorrectionPart = later<LatePart>(() => import('./look-parts').then((m) => m.CorrectionPart))
const TextParts = later<LatePart>(() => import('@/features/letters/text-parts').then((m) => m.TextParts))
const CameraPart = later<LatePart>(() => import('@/features/motion/camera-parts').then((m) => m.CameraPart))
const ScenePart = later<LatePart>(() => import('./scene-parts').then((m) => m.ScenePart))
const BackdropPart = later<LatePart>(() => import('./scene-parts').then((m) => m.BackdropPart))
const TemplatePart = later<LatePart>(() => import('@/features/templates/template-part').then((m) => m.TemplatePart))
const LightPart = later<LatePart>(() => import('@/features/motion/camera-parts').then((m) => m.LightPart))

/** What the details are ordered in: index tabs that stay in reach. */
export const CHAPTERS = [
  { id: 'place', label: 'Place' },
  { id: 'motion', label: 'Motion' },
  { id: 'look', label: 'Look' },
  { id: 'scene', label: 'Scene' },
  { id: 'camera', label: 'Camera' },
] as const

export type ChapterId = (typeof CHAPTERS)[number]['id']

/** A part of a chapter. `names`: what the server calls it where it says which parts differ from the default; `applies`: to what is chosen. */
export type PartSpec = { chapter: ChapterId; names: readonly string[]; applies: (chosen: Chosen) => boolean; Part: ComponentType<PartProps> }

const layers = (c: Chosen) => c.layers.length > 0
const photos = (c: Chosen) => c.photos.length > 0
const texts = (c: Chosen) => c.texts.length > 0
const others = (c: Chosen) => !c.photos.length && !c.texts.length && c.others.length > 0
const always = () => true

/** All parts, in the order in which people decide about them. A new one: its component, and a line here. */
export const PARTS: readonly PartSpec[] = [
  { chapter: 'place', names: ['placement'], applies: layers, Part: PlacementPart },
  { chapter: 'place', names: ['fit'], applies: photos, Part: FitPart },
  { chapter: 'place', names: ['window'], applies: photos, Part: WindowPart },
  { chapter: 'place', names: ['mask'], applies: layers, Part: MaskPart },
  { chapter: 'motion', names: ['views'], applies: photos, Part: Views },
  { chapter: 'motion', names: ['motion'], applies: layers, Part: MotionPart },
  { chapter: 'look', names: ['text', 'style', 'setting', 'ink', 'panel', 'shadow'], applies: texts, Part: TextParts },
  { chapter: 'look', names: ['look'], applies: photos, Part: LookPart },
  { chapter: 'look', names: ['form'], applies: (c) => c.others.some((l) => l.kind !== 'text' && kindOf(l)?.details.length), Part: OwnParts },
  { chapter: 'look', names: ['mount'], applies: photos, Part: MountPart },
  { chapter: 'look', names: ['shadow'], applies: photos, Part: PhotoShadowPart },
  { chapter: 'look', names: ['shadow'], applies: others, Part: ShadowPart },
  { chapter: 'look', names: ['correction'], applies: photos, Part: CorrectionPart },
  { chapter: 'scene', names: ['template'], applies: always, Part: TemplatePart },
  { chapter: 'scene', names: ['scene'], applies: always, Part: ScenePart },
  { chapter: 'scene', names: ['backdrop'], applies: always, Part: BackdropPart },
  { chapter: 'camera', names: ['camera'], applies: always, Part: CameraPart },
  { chapter: 'camera', names: ['light'], applies: always, Part: LightPart },
]
