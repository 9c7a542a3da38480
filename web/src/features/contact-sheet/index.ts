export { droppedFiles } from './dropped'
export { sendAll, useSending } from './sending'
