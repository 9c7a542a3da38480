export { Lanes } from './lanes'
export { chooseAllKeys, copyKeys, deleteKeys, easeKeys, forgetCopied, hasCopied, pasteKeys, selectedLanes, setKeysHere, stepToKey } from './actions'
export { keyCommands } from './commands'
