export { workshopCommands } from './commands'
