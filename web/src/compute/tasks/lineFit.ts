/** What a sweep says of each part of a chain. */
import {
  type AnalyserErrors,
  type Chain,
  type FarEnd,
  fitSweep,
  readReflections,
  REFERENCE_OHM,
  type Reflections,
  type SweepFit,
  type Tolerances,
} from '@saltline/core'
import type { Task } from '../task.ts'

export interface LineFitRequest {
  chain: Chain
  tolerances: Tolerances
  plane: number
  farEnd: FarEnd
  /** The text of a Touchstone file, or a sweep that was kept. */
  sweep: string | Reflections
  /** How far it may be off. */
  analyser: AnalyserErrors
}

export const lineFitTask: Task<LineFitRequest, SweepFit | null> = ({
  chain,
  tolerances,
  plane,
  farEnd,
  sweep,
  analyser,
}) =>
  fitSweep(
    chain,
    plane,
    typeof sweep === 'string' ? readReflections(sweep, REFERENCE_OHM) : sweep,
    farEnd,
    tolerances,
    { analyser },
  )
