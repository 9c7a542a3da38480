export { tableCommands } from './commands'
