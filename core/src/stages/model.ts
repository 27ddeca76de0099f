import type { Tolerances } from '../chain/tolerances.ts'
import type { Random } from '../statistics/random.ts'
import type { Ratings } from './rating.ts'
import type { InCircuit, Stress } from './stress.ts'
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
  /** Whether its matrix is the same on every frequency; missing where it never is. */
  flat?: (stage: S) => boolean
  /** Refuses a frequency it has no figure for; missing where it has one for all. */
  covers?: (stage: S, frequencyHz: number) => void
  /** Every stress of the part in circuit, in the same order whatever the power: several phases are compared one by one. */
  stresses: (stage: S, at: InCircuit) => Stress[]
  /** What it may bear by its class; missing where that is a class of part. */
  ratings?: (stage: S) => Ratings
  /** A part that does what it does and takes nothing for it; null where nothing is left to do. */
  lossless: (stage: S) => S | null
}
