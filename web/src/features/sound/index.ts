export { heardKey, useHeard } from './heard'
export { addMusic, MUSIC_FILES, useComing } from './listening'
export { useWaveform, waveOutline } from './waveform'
export { soundCommands } from './commands'
