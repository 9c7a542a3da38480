export { DefaultsFields } from './defaults'
export { Details } from './details'
export { findNumber } from './finder'
