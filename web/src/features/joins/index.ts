export { chooseJoin, JoinLine } from './join-line'
export { joinCommands } from './commands'
