export { ContactSheet } from './contact-sheet'
export { droppedFiles } from './dropped'
export { sendAll, useSending } from './sending'
