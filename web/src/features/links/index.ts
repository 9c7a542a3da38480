export { Fields } from './fields'
export { type Links, useLinks, type ValueOwner } from './links'
export { declared } from './values'
