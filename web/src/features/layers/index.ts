export { LayersPanel } from './layers-panel'
export { duplicateLayers, groupLayers, nudgeLayers, removeLayers } from './layer-actions'
