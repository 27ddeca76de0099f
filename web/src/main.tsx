import { QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { RouterProvider } from 'react-router'
import { Toaster } from 'sonner'
import { owesSignOut } from './platform/api/client.ts'
import { queryClient } from './platform/api/queries.ts'
import { startOutbox } from './platform/outbox/index.ts'
import { address } from './platform/base.ts'
import { router } from './routes.tsx'
import { keepFocus } from './platform/keepFocus.ts'
import './styles.css'

if (owesSignOut.get() && location.pathname !== address('/sign-in'))
  location.replace(address('/sign-in'))

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
      <Toaster
        position="bottom-left"
        toastOptions={{
          unstyled: false,
          style: {
            background: 'var(--ink)',
            color: 'var(--sheet)',
            border: 'none',
            fontFamily: 'B612',
          },
        }}
      />
    </QueryClientProvider>
  </StrictMode>,
)

startOutbox()
keepFocus()
// Not given to pages of plain HTTP from another machine: they are there as long as the server is.
if (import.meta.env.PROD && 'serviceWorker' in navigator)
  void navigator.serviceWorker.register(address('/serviceWorker.js')).catch(() => undefined)
