export { Carry } from './carry'
