/** Where one is in a project. */
export type Place = 'desk' | 'contact-sheet' | 'sound'

/** A place's address. */
export const placeAddress = (project: string, place: Place): string => `/projects/${project}${place === 'desk' ? '' : `/${place}`}`
