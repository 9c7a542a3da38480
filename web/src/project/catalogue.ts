import { create } from 'zustand'
import { type Catalogue, client, settled } from '@/api/client'

export const useCatalogue = create<{ catalogue: Catalogue | null }>()(() => ({ catalogue: null }))

export async function loadCatalogue(): Promise<void> {
  if (!useCatalogue.getState().catalogue) useCatalogue.setState({ catalogue: (await settled(client.GET('/api/catalogue'))) as Catalogue })
}

export const catalogue = (): Catalogue => useCatalogue.getState().catalogue as Catalogue
