export { KEYED } from './keyed'
