export { RunSheet } from './run-sheet'
export { sceneCommands } from './commands'
