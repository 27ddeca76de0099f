import type { Tolerances } from '../chain/tolerances.ts'
import type { Random } from '../statistics/random.ts'
import type { Abcd } from './twoPort.ts'

/** Tells what is wrong with a figure of a stage; `path` leads to it from the stage. */
export interface Checks {
  /** @throws InputError unless value > 0 and finite */
  positive: (value: number, what: string, ...path: (string | number)[]) => void
  /** @throws InputError unless value ≥ 0 and finite */
  notNegative: (value: number, what: string, ...path: (string | number)[]) => void
  /** @throws InputError always */
  refuse: (message: string, ...path: (string | number)[]) => never
}

/** How figures of a stage are drawn within their tolerances. */
export interface Variation<S> {
  /** A copy whose drawn figures may be overwritten. */
  copy: (stage: S) => S
  /** Draws the figures of `to` anew around those of `from`. */
  draw: (from: S, to: S, tolerances: Tolerances, random: Random) => void
}

/** All that the solver and what stands on it ask of a kind of stage. */
export interface StageModel<S> {
  /** Refuses what no circuit can be. */
  check: (stage: S, checks: Checks) => void
  /**
   * Writes the ABCD matrix at a frequency. Missing where the matrix depends on what the stage is set for (tuners), or
   * where there is none (amplifiers).
   */
  write?: (stage: S, frequencyHz: number, referenceOhm: number, out: Abcd) => void
  /** Missing where the figures are taken as they are given. */
  varied?: Variation<S>
}
