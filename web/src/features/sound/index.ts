export { heardKey, useHeard } from './heard'
export { useWaveform, waveOutline } from './waveform'
export { soundCommands } from './commands'
