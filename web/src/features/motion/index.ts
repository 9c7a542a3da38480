export { CameraPart, LightPart } from './camera-parts'
export { MotionPart } from './motion-part'
export { motionCommands } from './commands'
