import { create } from 'zustand'
import type { Scene, Template } from '@/api/client'
import { inOrder } from '@/project/ordering'
import { useProject } from '@/project/project'
import { useSession } from '@/project/session'

/** How one looks at it: `share` of the scene's time, or all the trials. */
export const useWorkshop = create<{ share: number; trials: boolean }>()(() => ({ share: 0.7, trials: false }))

/** Templates that are made in this project, by their ids. */
export const madeHere = (templates: Record<string, Template> | undefined): [string, Template][] => Object.entries(templates ?? {}).filter(([, t]) => !t.origin)

/** The scenes of a template, in the order of the film. */
export const scenesOf = (scenes: Record<string, Scene> | undefined, template: string): [string, Scene][] => inOrder(scenes).filter(([, s]) => s.template?.template === template)

/** The template that is worked on, and the scene of it that is seen: those of the chosen scene, or the first there are. */
export function useMaking(): { id: string; template: Template; scene: string } | null {
  const templates = useProject((s) => s.document.templates)
  const scenes = useProject((s) => s.document.scenes)
  const chosen = useSession((s) => s.chosenScenes.at(-1) ?? '')
  const here = madeHere(templates)
  const own = here.find(([id]) => id === scenes?.[chosen]?.template?.template)
  const [id, template] = own ?? here[0] ?? []
  if (!id || !template) return null
  const scene = own ? chosen : (scenesOf(scenes, id)[0]?.[0] ?? '')
  return { id, template, scene }
}
