/** What a tuner that is not set for its load may do to the parts in front of it: any reflection may be met at its input. */
import { complex } from '../complex.ts'
import { type OperatingPoint, referenceOf } from '../chain/chain.ts'
import { phases } from '../chain/allRound.ts'
import { solveChain } from '../chain/solve.ts'
import type { RatedChain } from '../limits/mostPower.ts'
import { stressesOf, type Surroundings } from '../limits/stress.ts'
import type { Stress } from '../stages/stress.ts'
import { impedanceOf } from '../load/reflection.ts'

/** Sizes and phases that stand for all reflections. */
const RHO = [0, 0.33, 0.6, 0.8, 0.9, 0.96, 0.999]
const PHASES = phases(16)
/** Between them a stress is a few hundredths more at most. */
const BETWEEN = 1.05

export interface AheadOfUnset {
  /** Most net power into the tuner, W for one watt set. */
  perWatt: number
  /** The same with what lies between the reflections that were tried: what the tuner's own rating is held against. */
  mostPerWatt: number
  /** Of the transmitter and every part in front of the tuner the worst stress, at one watt set. */
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
        {
          ...chain,
          // A tuned output was tuned for another load than whatever it now meets.
          transmitter: { ...chain.transmitter, behaviour: 'levelled' },
          stages,
          load: { kind: 'fixed', rOhm: z.re, xOhm: z.im },
        },
        { ...at, powerW: 1, settings: undefined },
      )
      perWatt = Math.max(perWatt, solution.antennaW)
      // The transmitter's own among them: into a match that is met on the way it delivers all that is set.
      const stresses = stressesOf(stages, solution, around).filter(({ part }) => part < tuner)
      worst = stresses.map((own, i) => (worst[i] && worst[i].stress > own.stress ? worst[i] : own))
    }
  return {
    perWatt,
    mostPerWatt: perWatt * BETWEEN,
    stresses: worst.map((own) => (own.part < 0 ? own : timesPower(own, BETWEEN))),
  }
}

/** A stress at so many times the power. */
export const timesPower = (own: Stress, factor: number): Stress => ({
  ...own,
  stress: own.stress * (own.unit.startsWith('V') ? Math.sqrt(factor) : factor),
  headroomDb: own.headroomDb === null ? null : own.headroomDb - 10 * Math.log10(factor),
})

/** A stress that is a power, at another one, W. */
export const atPower = (own: Stress, watts: number): Stress => ({
  ...own,
  stress: watts,
  headroomDb: own.limit === null ? null : 10 * Math.log10(own.limit / watts),
})
