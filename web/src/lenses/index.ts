/** What the lenses are, each fetched when it is first asked for. A new one is a folder, an id in `editor/lens.ts` and an entry here. */
import { lazy } from 'react'
import { type Lens, type LensId, lensIds } from '../editor/lens.ts'

const byId: Record<LensId, Omit<Lens, 'id'>> = {
  budget: {
    name: 'Budget',
    lead: true,
    Lens: lazy(async () => ({ default: (await import('./budget/BudgetLens.tsx')).BudgetLens })),
  },
  headroom: {
    name: 'Headroom',
    lead: true,
    Lens: lazy(async () => ({
      default: (await import('./headroom/HeadroomLens.tsx')).HeadroomLens,
    })),
    Strip: lazy(async () => ({
      default: (await import('./headroom/ProfileStrip.tsx')).ProfileStrip,
    })),
  },
  compare: {
    name: 'Compare',
    lead: true,
    Lens: lazy(async () => ({ default: (await import('./compare/CompareLens.tsx')).CompareLens })),
  },
  antenna: {
    name: 'Antenna',
    Lens: lazy(async () => ({ default: (await import('./antenna/AntennaLens.tsx')).AntennaLens })),
  },
  match: {
    name: 'Match',
    lead: true,
    Lens: lazy(async () => ({ default: (await import('./match/MatchLens.tsx')).MatchLens })),
  },
  line: {
    name: 'Along the line',
    lead: true,
    Lens: lazy(async () => ({ default: (await import('./line/LineLens.tsx')).LineLens })),
  },
  log: {
    name: 'Log',
    Lens: lazy(async () => ({ default: (await import('./log/LogLens.tsx')).LogLens })),
    entry: true,
  },
  run: {
    name: 'Run sheets',
    Lens: lazy(async () => ({ default: (await import('./run/RunLens.tsx')).RunLens })),
    entry: true,
  },
}

/** In the order of their tabs. */
export const lenses: readonly Lens[] = lensIds.map((id) => ({ id, ...byId[id] }))

/** @returns undefined where an address names none that there is */
export const lensOf = (id: string): Lens | undefined => lenses.find((lens) => lens.id === id)
