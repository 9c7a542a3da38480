export { ExportPanel } from './export-panel'
export { Exports, LIVE } from './jobs'
