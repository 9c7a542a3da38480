export { fillingCommands } from './commands'
