export { Lanes } from './lanes'
export { chooseAllKeys, copyKeys, deleteKeys, easeKeys, pasteKeys, selectedLanes, setKeysHere, stepToKey } from './actions'
export { keyCommands } from './commands'
