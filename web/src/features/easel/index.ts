export { Easel } from './easel'
export { toggleFullScreen } from './full-screen'
export { easelCommands } from './commands'
