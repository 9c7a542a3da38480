export { layerCommands } from './commands'
export { LayersPanel } from './layers-panel'
export { duplicateLayers, GROUP, nudgeLayers, removeLayers } from './layer-actions'
