export { JoinPicker } from './join-picker'
export { JoinLine, useJoinPicker } from './join-line'
