export { plain } from './command'
export { CommandList } from './command-list'
export { KEYED } from './keyed'
