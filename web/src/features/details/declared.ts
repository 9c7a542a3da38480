import { catalogue } from '@/project/catalogue'

/** A part of looks or of drawn layers, as the core declares it. */
export const declared = (id: string) => [...catalogue().look_parts, ...catalogue().drawn_parts, ...catalogue().text_parts].find((p) => p.id === id)
