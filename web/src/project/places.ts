import { useProject } from './project'

/** Where one is in a project. */
export type Place = 'desk' | 'contact-sheet' | 'sound' | 'workshop'

/** The place that an address is of. */
export const placeAt = (path: string): Place => (['contact-sheet', 'sound', 'workshop'] as const).find((place) => path.endsWith(`/${place}`)) ?? 'desk'

/** A place's address. */
export const placeAddress = (project: string, place: Place): string => `/projects/${project}${place === 'desk' ? '' : `/${place}`}`

let follow = (address: string): void => location.assign(address)

/** How an address is gone to without loading the page anew. */
export function leadBy(way: (address: string) => void): void {
  follow = way
}

export const goTo = (place: Place): void => follow(placeAddress(useProject.getState().id, place))
export const goToProjects = (): void => follow('/')

/** The address of the guided path, of a project or of one that is not begun yet. */
export const fillingAddress = (project: string | null, step = 'choose'): string => (project ? `/projects/${project}/fill?step=${step}` : '/fill')
export const goToFilling = (): void => follow(fillingAddress(useProject.getState().id, 'adjust'))

/** The address of a project's table, of which each row makes a film. */
export const tableAddress = (project: string): string => `/projects/${project}/table`
export const goToTable = (): void => follow(tableAddress(useProject.getState().id))
