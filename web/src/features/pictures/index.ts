export { fits, PicturePicker } from './picker'
