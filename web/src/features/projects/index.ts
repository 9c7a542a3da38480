export { ProjectsPage } from './page'
export { FrameFields, type FrameChoice, shapeName } from './frame-fields'
