export { ADD_TEXT } from './add-text'
export { letterCommands } from './commands'
