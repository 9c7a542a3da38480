import { create } from 'zustand'
import type { Edit, KeyRef, LayerRef } from '@/api/client'
import { layersOf, photosOf, useProject } from './project'

/** What drags on the easel take: the layer (its window), the picture in the window, or the camera. */
export type Target = 'layer' | 'picture' | 'camera'
export type Looking = 'live' | 'views' | 'plan'

type Session = {
  /** Edits being tried in a drag: shown, never stored. */
  tried: Edit[] | null
  chosenScenes: string[]
  /** Layers chosen in the last chosen scene; none: what is done is done to all its photos. */
  chosenLayers: LayerRef[]
  /** What drags on the easel take: the layer (its window), or the picture in the window. */
  target: Target
  chequered: boolean
  thirds: boolean
  safe: boolean
  playhead: number
  playing: boolean
  loopScene: boolean
  looking: Looking
  /** What is changed becomes keyframes at the playhead. */
  recording: boolean
  /** What is changed of a value that follows another changes that one, instead of ending the link. */
  intoSources: boolean
  chosenKeys: KeyRef[]
  /** Lanes opened into curves, as `container/layer/property`. */
  openLanes: string[]
  lanesShown: boolean
  /** Outlines of earlier and later frames of the chosen layers. */
  ghosts: boolean
  /** How the run sheet is spaced: every row alike, or as high as it lasts. */
  spacing: 'even' | 'time'
  /** A named version that is laid over the film. */
  compared: { id: string; name: string } | null
  /** The text that is written on the picture. */
  writing: LayerRef | null
}

/** What a session begins with; what one has chosen to see stays from project to project. */
const BEGINNING: Session = {
  tried: null,
  chosenScenes: [],
  chosenLayers: [],
  target: 'layer',
  chequered: false,
  thirds: false,
  safe: false,
  playhead: 0,
  playing: false,
  loopScene: false,
  looking: 'live',
  recording: false,
  intoSources: false,
  chosenKeys: [],
  openLanes: [],
  lanesShown: true,
  ghosts: false,
  spacing: 'even',
  compared: null,
  writing: null,
}

/** What this window has chosen and is doing: nothing of it is stored. */
export const useSession = create<Session>()(() => BEGINNING)

// Layers are chosen within a scene: another scene, and the choice is gone.
useSession.subscribe((now, before) => {
  if (now.chosenLayers?.length && now.chosenScenes?.at(-1) !== before.chosenScenes?.at(-1)) useSession.setState({ chosenLayers: [], target: 'layer' })
  // What is written is chosen: another choice, and it is written no longer.
  if (now.writing && before.writing && now.chosenLayers !== before.chosenLayers && !now.chosenLayers.some((l) => l.layer === now.writing?.layer)) useSession.setState({ writing: null })
  // So are keys within layers: another layer, and its keys are let go.
  if (now.chosenKeys?.length && now.chosenLayers.length && now.chosenLayers !== before.chosenLayers) {
    const kept = now.chosenKeys.filter((k) => k.layer === null || now.chosenLayers.some((l) => l.layer === k.layer && l.scene === k.scene))
    if (kept.length !== now.chosenKeys.length) useSession.setState({ chosenKeys: kept })
  }
  if (now.chosenKeys?.length && now.chosenScenes?.at(-1) !== before.chosenScenes?.at(-1)) useSession.setState({ chosenKeys: [] })
})

/** The project and the session as they are now, for what is done once. */
export const now = () => ({ ...useProject.getState(), ...useSession.getState() })

/** Another project: nothing of the one before is chosen. */
export function beginSession(scenes: string[], playhead: number): void {
  const { spacing, lanesShown } = useSession.getState()
  useSession.setState({ ...BEGINNING, spacing, lanesShown, chosenScenes: scenes, playhead })
}

export const chooseScenes = (chosenScenes: string[]): void => useSession.setState({ chosenScenes })
export const chooseLayers = (chosenLayers: LayerRef[]): void => useSession.setState({ chosenLayers })
export const write = (writing: LayerRef | null): void => useSession.setState({ writing })
export const chooseKeys = (chosenKeys: KeyRef[]): void => useSession.setState({ chosenKeys })
export const lookAt = (looking: Looking): void => useSession.setState({ looking })
export const takeHoldOf = (target: Target): void => useSession.setState({ target })
export const movePlayhead = (playhead: number): void => useSession.setState({ playhead })
export const compareWith = (compared: Session['compared']): void => useSession.setState({ compared })
export const space = (spacing: Session['spacing']): void => useSession.setState({ spacing })

/** What is seen besides the film, or how something is done: on or off. */
export const toggle = (name: 'chequered' | 'thirds' | 'safe' | 'loopScene' | 'recording' | 'intoSources' | 'lanesShown' | 'ghosts'): void => useSession.setState((s) => ({ [name]: !s[name] }))

/** What stands before edits: that the numbers they set become keyframes at the playhead, or that what is followed changes along. */
export function led(edits: Edit[]): Edit[] {
  const { recording, intoSources, playhead, chosenScenes } = useSession.getState()
  if (recording) return [{ edit: 'record', at: Math.round(playhead), on: chosenScenes.at(-1) }, ...edits]
  return intoSources ? [{ edit: 'into_sources' }, ...edits] : edits
}

/** Show edits without storing them; null ends the trial. */
export function tryEdits(edits: Edit[] | null): void {
  useSession.setState({ tried: edits && led(edits) })
}

/** The chosen layers; if none are, all photos of the chosen scenes. */
export function reachedLayers(): LayerRef[] {
  const { chosenLayers, chosenScenes } = useSession.getState()
  return chosenLayers.length ? chosenLayers : photosOf(chosenScenes)
}

/** The photos among them. */
export const reachedPhotos = (): LayerRef[] => reachedLayers().filter((r) => layersOf(useProject.getState().document, r.scene)[r.layer]?.kind === 'photo')
