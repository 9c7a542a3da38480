export { Details } from './details'
export { findNumber } from './finder'
