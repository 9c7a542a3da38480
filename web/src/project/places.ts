/** Where one is in a project. */
export type Place = 'desk' | 'contact-sheet' | 'sound'

/** The place that an address is of. */
export const placeAt = (path: string): Place => (path.endsWith('/contact-sheet') ? 'contact-sheet' : path.endsWith('/sound') ? 'sound' : 'desk')

/** A place's address. */
export const placeAddress = (project: string, place: Place): string => `/projects/${project}${place === 'desk' ? '' : `/${place}`}`
