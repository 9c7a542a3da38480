export { ExportPanel } from './export-panel'
