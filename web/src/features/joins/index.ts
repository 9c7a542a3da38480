export { chooseJoin, JoinLine } from './join-line'
