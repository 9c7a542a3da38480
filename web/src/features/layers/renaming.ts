import { create } from 'zustand'
import { now } from '@/project/session'

/** The layer whose name is being typed in the list of layers, as `scene/layer`. */
export const useRenaming = create<{ layer: string | null }>()(() => ({ layer: null }))

export const rename = (layer: string | null): void => useRenaming.setState({ layer })

/** Types another name for the layer chosen first. */
export function renameLayer(): void {
  const [first] = now().chosenLayers
  if (first) rename(`${first.scene}/${first.layer}`)
}
