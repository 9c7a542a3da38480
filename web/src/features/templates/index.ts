export { TREAT_SCENES, templateCommands, treatPictures } from './commands'
export { workshopCommands } from './workshop-commands'
