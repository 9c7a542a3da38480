export { Lanes } from './lanes'
export { copyKeys, deleteKeys, easeKeys, pasteKeys, selectedLanes, setKeysHere, stepToKey } from './actions'
