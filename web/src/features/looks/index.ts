export { LookPicker } from './look-picker'
