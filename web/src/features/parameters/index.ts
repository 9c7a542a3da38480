export { type Numbers, type Owner, useNumbers } from './numbers'
export { Parameters, type ParametersProps } from './parameters'
