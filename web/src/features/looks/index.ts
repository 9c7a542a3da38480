export { LookPicker } from './look-picker'
export { lookCommands } from './commands'
