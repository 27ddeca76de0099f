/** The lenses, in the order of their tabs, each fetched when it is first asked for. A new one is a folder and a line here. */
import { lazy } from 'react'
import type { Lens } from '../editor/lens.ts'

export const lenses: readonly Lens[] = [
  {
    id: 'budget',
    name: 'Budget',
    Lens: lazy(async () => ({ default: (await import('./budget/BudgetLens.tsx')).BudgetLens })),
  },
  {
    id: 'headroom',
    name: 'Headroom',
    Lens: lazy(async () => ({
      default: (await import('./headroom/HeadroomLens.tsx')).HeadroomLens,
    })),
    Strip: lazy(async () => ({
      default: (await import('./headroom/ProfileStrip.tsx')).ProfileStrip,
    })),
  },
  {
    id: 'compare',
    name: 'Compare',
    Lens: lazy(async () => ({ default: (await import('./compare/CompareLens.tsx')).CompareLens })),
  },
  {
    id: 'antenna',
    name: 'Antenna',
    Lens: lazy(async () => ({ default: (await import('./antenna/AntennaLens.tsx')).AntennaLens })),
  },
  {
    id: 'match',
    name: 'Match',
    Lens: lazy(async () => ({ default: (await import('./match/MatchLens.tsx')).MatchLens })),
  },
  {
    id: 'log',
    name: 'Log',
    Lens: lazy(async () => ({ default: (await import('./log/LogLens.tsx')).LogLens })),
    entry: true,
  },
  {
    id: 'run',
    name: 'Run sheets',
    Lens: lazy(async () => ({ default: (await import('./run/RunLens.tsx')).RunLens })),
    entry: true,
  },
]

/** A lens that is not known is the first. */
export const lensOf = (id: string): Lens => lenses.find((lens) => lens.id === id) ?? lenses[0]!
