export { Reframe } from './reframe'
