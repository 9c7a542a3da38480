export { LayoutPicker } from './layout-picker'
