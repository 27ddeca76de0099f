/** The route table. Pages are fetched when they are first gone to. */
import { createBrowserRouter, Navigate, useLocation } from 'react-router'
import { BASE } from './platform/base.ts'
import { Root } from './shell/Root.tsx'
import { RouteTrouble } from './shell/RouteTrouble.tsx'
import { Trouble } from './shell/Trouble.tsx'

/** A chain without a lens is shown in the first; what is selected in it stays. */
function FirstLens() {
  const { search } = useLocation()
  return <Navigate to={{ pathname: 'budget', search }} relative="path" replace />
}

export const router = createBrowserRouter(
  [
    {
      element: <Root />,
      errorElement: <RouteTrouble />,
      // Nothing, rather than a flash of something, until the first page is there.
      hydrateFallbackElement: <></>,
      children: [
        {
          path: '/',
          lazy: async () => ({ Component: (await import('./pages/home/HomePage.tsx')).HomePage }),
        },
        {
          path: '/station/:stationId',
          lazy: async () => ({
            Component: (await import('./pages/station/StationPage.tsx')).StationPage,
          }),
        },
        {
          path: '/station/:stationId/gear',
          lazy: async () => ({ Component: (await import('./pages/gear/GearPage.tsx')).GearPage }),
        },
        {
          path: '/station/:stationId/thing/:thingId',
          lazy: async () => ({
            Component: (await import('./pages/thing/ThingPage.tsx')).ThingPage,
          }),
        },
        {
          path: '/station/:stationId/labels',
          lazy: async () => ({
            Component: (await import('./pages/thing/LabelsPage.tsx')).LabelsPage,
          }),
        },
        {
          path: '/station/:stationId/due',
          lazy: async () => ({ Component: (await import('./pages/due/DuePage.tsx')).DuePage }),
        },
        {
          path: '/station/:stationId/bench',
          lazy: async () => ({
            Component: (await import('./pages/bench/BenchPage.tsx')).BenchPage,
          }),
        },
        {
          path: '/station/:stationId/chain/:chainId',
          element: <FirstLens />,
        },
        {
          path: '/station/:stationId/sheets/:sheetId',
          lazy: async () => ({
            Component: (await import('./pages/ownSheet/OwnSheetPage.tsx')).OwnSheetPage,
          }),
        },
        {
          path: '/station/:stationId/chain/:chainId/sheet/:sheetId',
          lazy: async () => ({
            Component: (await import('./pages/sheet/SheetPage.tsx')).SheetPage,
          }),
        },
        {
          path: '/station/:stationId/chain/:chainId/card',
          lazy: async () => ({ Component: (await import('./pages/card/CardPage.tsx')).CardPage }),
        },
        {
          path: '/station/:stationId/chain/:chainId/round/:roundId',
          lazy: async () => ({
            Component: (await import('./pages/report/ReportPage.tsx')).ReportPage,
          }),
        },
        {
          path: '/station/:stationId/chain/:chainId/:lens',
          lazy: async () => ({
            Component: (await import('./pages/chain/ChainPage.tsx')).ChainPage,
          }),
        },
        ...['/new', '/station/:stationId/new-chain'].map((path) => ({
          path,
          lazy: async () => ({
            Component: (await import('./pages/newStation/NewStationPage.tsx')).NewStationPage,
          }),
        })),
        {
          path: '/quick',
          lazy: async () => ({
            Component: (await import('./pages/quick/QuickPage.tsx')).QuickPage,
          }),
        },
        {
          path: '/drills',
          lazy: async () => ({
            Component: (await import('./pages/drills/DrillsPage.tsx')).DrillsPage,
          }),
        },
        {
          path: '/drills/find/:level/:seed',
          lazy: async () => ({ Component: (await import('./pages/drills/FindPage.tsx')).FindPage }),
        },
        {
          path: '/drills/:exerciseId/:seed',
          lazy: async () => ({
            Component: (await import('./pages/drills/ExercisePage.tsx')).ExercisePage,
          }),
        },
        {
          path: '/copies',
          lazy: async () => ({
            Component: (await import('./pages/station/CopiesPage.tsx')).CopiesPage,
          }),
        },
        {
          path: '/access',
          lazy: async () => ({
            Component: (await import('./pages/access/AccessPage.tsx')).AccessPage,
          }),
        },
        {
          path: '/sign-in',
          lazy: async () => ({
            Component: (await import('./pages/access/SignInPage.tsx')).SignInPage,
          }),
        },
        {
          path: '/join/:code',
          lazy: async () => ({ Component: (await import('./pages/access/JoinPage.tsx')).JoinPage }),
        },
        { path: '*', element: <Trouble error={new Error('There is no page at this address.')} /> },
      ],
    },
  ],
  { basename: BASE },
)
