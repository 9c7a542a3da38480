export { ADD_TEXT, addText, chosenTexts, letterCommands } from './commands'
export { beginWriting, endWriting } from './writing'
