export { heardKey, useHeard } from './heard'
export { SoundPage } from './sound-page'
export { useWaveform } from './waveform'
