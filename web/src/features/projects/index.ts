export { type FrameChoice, FrameFields } from './frame-fields'
