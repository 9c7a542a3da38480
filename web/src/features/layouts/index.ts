export { LayoutPicker } from './layout-picker'
export { LAY_OUT, layoutCommands } from './commands'
