export { Plan } from './plan'
