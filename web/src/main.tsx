import './styles.css'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { setNonce } from 'get-nonce'
import { createRoot } from 'react-dom/client'
import { App } from './app/app'

const nonce = document.querySelector<HTMLMetaElement>('meta[name=style-nonce]')?.content
if (nonce) setNonce(nonce)

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true, staleTime: 2_000 } } })
const root = document.getElementById('root')
if (root)
  createRoot(root).render(
    <QueryClientProvider client={queries}>
      <App />
    </QueryClientProvider>,
  )
