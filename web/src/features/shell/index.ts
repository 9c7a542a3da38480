export { ProjectShell } from './shell'
