export { DefaultsFields } from './defaults'
export { Details } from './details'
