export { motionCommands } from './commands'
