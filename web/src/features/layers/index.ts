export { GROUP, layerCommands } from './commands'
export { LayersPanel } from './layers-panel'
export { duplicateLayers, nudgeLayers, removeLayers } from './layer-actions'
