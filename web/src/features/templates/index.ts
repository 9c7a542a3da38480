export { TREAT_SCENES, templateCommands, treatPictures } from './commands'
