/** The lenses, in the order of their tabs. A new one is a folder and a line here. */
import { AntennaLens } from './antenna/AntennaLens.tsx'
import { BudgetLens } from './budget/BudgetLens.tsx'
import { CompareLens } from './compare/CompareLens.tsx'
import { HeadroomLens } from './headroom/HeadroomLens.tsx'
import { ProfileStrip } from './headroom/ProfileStrip.tsx'
import type { Lens } from '../editor/lens.ts'
import { LogLens } from './log/LogLens.tsx'
import { MatchLens } from './match/MatchLens.tsx'
import { RunLens } from './run/RunLens.tsx'

export const lenses: readonly Lens[] = [
  { id: 'budget', name: 'Budget', Lens: BudgetLens },
  { id: 'headroom', name: 'Headroom', Lens: HeadroomLens, Strip: ProfileStrip },
  { id: 'compare', name: 'Compare', Lens: CompareLens },
  { id: 'antenna', name: 'Antenna', Lens: AntennaLens },
  { id: 'match', name: 'Match', Lens: MatchLens },
  { id: 'log', name: 'Log', Lens: LogLens, entry: true },
  { id: 'run', name: 'Run sheets', Lens: RunLens, entry: true },
]

/** A lens that is not known is the first. */
export const lensOf = (id: string): Lens => lenses.find((lens) => lens.id === id) ?? lenses[0]!
