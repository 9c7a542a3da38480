export { RunSheet } from './run-sheet'
