export { MotionPart } from './motion-part'
export { type Numbers, type Owner, useNumbers } from './numbers'
export { StagePart } from './stage-part'
