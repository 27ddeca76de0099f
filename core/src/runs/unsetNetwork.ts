/** What a tuner that is not set for its load may do to the parts in front of it: any reflection may be met at its input. */
import { complex } from '../complex.ts'
import { type OperatingPoint, referenceOf } from '../chain/chain.ts'
import { phases } from '../chain/allRound.ts'
import { solveChain } from '../chain/solve.ts'
import type { RatedChain } from '../limits/mostPower.ts'
import { type Stress, stressesOf, type Surroundings } from '../limits/stress.ts'
import { impedanceOf } from '../load/reflection.ts'

/** Sizes and phases that stand for all reflections. */
const RHO = [0, 0.33, 0.6, 0.8, 0.9, 0.95, 0.98]
const PHASES = phases(16)

export interface AheadOfUnset {
  /** Most net power into the tuner, W for one watt set. */
  perWatt: number
  /** Of every part in front of it the worst stress, at one watt set. */
  stresses: Stress[]
}

/**
 * The parts between a transmitter and a network that may stand anywhere.
 *
 * @param tuner index of its stage, with no amplifier in circuit in front of it
 */
export function aheadOfUnset(
  chain: RatedChain,
  at: OperatingPoint,
  tuner: number,
  around: Surroundings,
): AheadOfUnset {
  const reference = referenceOf(chain)
  const stages = chain.stages.slice(0, tuner)
  let perWatt = 0
  let worst: Stress[] = []
  for (const rho of RHO)
    for (const phase of rho === 0 ? [0] : PHASES) {
      const z = impedanceOf(complex(rho * Math.cos(phase), rho * Math.sin(phase)), reference)
      const solution = solveChain(
        { ...chain, stages, load: { kind: 'fixed', rOhm: z.re, xOhm: z.im } },
        { ...at, powerW: 1, settings: undefined },
      )
      perWatt = Math.max(perWatt, solution.antennaW)
      const stresses = stressesOf(stages, solution, around).filter(
        ({ part }) => part >= 0 && part < tuner,
      )
      worst = stresses.map((own, i) => (worst[i] && worst[i].stress > own.stress ? worst[i] : own))
    }
  return { perWatt, stresses: worst }
}
