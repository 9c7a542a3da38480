export { TREAT_SCENES, templateCommands, treatPictures } from './commands'
export { MAKE, makeTemplate } from './commands'
