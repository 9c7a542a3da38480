export { Lanes } from './lanes'
export { chooseAllKeys, copyKeys, deleteKeys, easeKeys, keysCopied, pasteKeys, selectedLanes, setKeysHere, stepToKey } from './actions'
export { keyCommands } from './commands'
