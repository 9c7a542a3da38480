export { pictureCommands } from './commands'
export { droppedFiles } from './dropped'
export { sendAll, useSending } from './sending'
