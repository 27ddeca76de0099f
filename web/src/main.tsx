import { QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router'
import { Toaster } from 'sonner'
import { queryClient } from './api/queries.ts'
import { HomePage } from './app/HomePage.tsx'
import { RouteTrouble } from './app/RouteTrouble.tsx'
import { Trouble } from './app/Trouble.tsx'
import { BenchPage } from './bench/BenchPage.tsx'
import { CardPage } from './card/CardPage.tsx'
import { ChainPage } from './chain/ChainPage.tsx'
import { GearPage } from './gear/GearPage.tsx'
import { NewStationPage } from './newStation/NewStationPage.tsx'
import { QuickPage } from './quick/QuickPage.tsx'
import { ReportPage } from './report/ReportPage.tsx'
import { StationPage } from './station/StationPage.tsx'
import './styles.css'

const router = createBrowserRouter([
  {
    errorElement: <RouteTrouble />,
    children: [
      { path: '/', element: <HomePage /> },
      {
        path: '/station/:stationId/chain/:chainId',
        element: <Navigate to="budget" relative="path" replace />,
      },
      { path: '/station/:stationId', element: <StationPage /> },
      { path: '/station/:stationId/chain/:chainId/card', element: <CardPage /> },
      { path: '/station/:stationId/chain/:chainId/round/:roundId', element: <ReportPage /> },
      { path: '/station/:stationId/chain/:chainId/:lens', element: <ChainPage /> },
      { path: '/station/:stationId/gear', element: <GearPage /> },
      { path: '/station/:stationId/bench', element: <BenchPage /> },
      { path: '/new', element: <NewStationPage /> },
      { path: '/quick', element: <QuickPage /> },
      { path: '*', element: <Trouble error={new Error('There is no page at this address.')} /> },
    ],
  },
])

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
