export { showPicture } from './showing'
export { droppedFiles } from './dropped'
export { sendAll, useSending } from './sending'
