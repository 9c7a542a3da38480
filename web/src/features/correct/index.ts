export { Correct } from './correct'
export { Trim } from './trim'
