export { plain } from './command'
export { KEYED } from './keyed'
