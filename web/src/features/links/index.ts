export { Fields } from './fields'
export { type ValueOwner, useLinks } from './links'
