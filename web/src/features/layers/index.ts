export { layerCommands } from './commands'
export { LayersPanel } from './layers-panel'
export { copyLayers, duplicateLayers, forgetLayersCopied, GROUP, hasLayersCopied, nudgeLayers, pasteLayers, removeLayers } from './layer-actions'
