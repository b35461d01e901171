import '@fontsource-variable/atkinson-hyperlegible-mono/index.css'
import '@fontsource-variable/atkinson-hyperlegible-next/index.css'
import './theme/tokens.css'
import './theme/shared.css'
import createCache from '@emotion/cache'
import { CacheProvider } from '@emotion/react'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'
import { App } from './App'

const nonce = document.querySelector('meta[name="csp-nonce"]')?.getAttribute('content') ?? undefined
const cache = createCache({ key: 'p', nonce, prepend: true })
const client = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 2000 } } })
const LATER_MS = 10_000
// A page that was open while Pindo was brought up to date asks for parts that are gone: it is loaded anew, and what was typed is kept.
window.addEventListener('vite:preloadError', () => {
  // Where nobody answers there is nothing to load, and a part that is wanting at once would be wanting again: the page stays.
  if (performance.now() < LATER_MS) return
  void fetch('/api/health').then((there) => there.ok && window.location.reload(), () => undefined)
})
const root = document.getElementById('root')
if (root === null) throw new Error('The page has no root element.')

createRoot(root).render(
  <StrictMode>
    <CacheProvider value={cache}>
      <QueryClientProvider client={client}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </CacheProvider>
  </StrictMode>,
)
