/** The most power a chain may run on a channel, and the part that sets it. */
import { type Chain, type OperatingPoint, settingsNow } from '../chain/chain.ts'
import { phases } from '../chain/phaseRange.ts'
import { solveChain, type Solution } from '../chain/solve.ts'
import { phaseUnknown } from '../load/load.ts'
import type { RatedStage } from './ratings.ts'
import { brokenBySwr, type Stress, stressesOf, type Surroundings, tightest } from './stress.ts'

export type RatedChain = Omit<Chain, 'stages'> & { stages: readonly RatedStage[] }

/** Stresses at one operating point: of every part the worst over all phases that the load may have. */
export interface Checked {
  stresses: Stress[]
  /** The solution of the worst phase. */
  solution: Solution
}

const CHECK_PHASES = 24

export function checkLimits(chain: RatedChain, at: OperatingPoint, around: Surroundings): Checked {
  const turns = phaseUnknown(chain.load) ? phases(CHECK_PHASES) : [0]
  const all = turns.map((phase): Checked => {
    const solution = solveChain(chain, at, phase)
    return { solution, stresses: stressesOf(chain.stages, solution, around) }
  })
  const worstOf = (checked: Checked) => tightest(checked.stresses)?.headroomDb ?? Infinity
  const { solution } = all.reduce((a, b) => (worstOf(b) < worstOf(a) ? b : a))
  const stresses = all[0]!.stresses.map((_, i) =>
    all.map((checked) => checked.stresses[i]!).reduce((a, b) => (b.stress > a.stress ? b : a)),
  )
  return { solution, stresses }
}

export interface MostPower {
  /** Setting of the transmitter, W PEP; infinite where no limit is known. */
  powerW: number
  /** What gives out first; null where no limit is known. */
  by: Stress | null
  /** How many parts have no known limit. */
  unknown: number
}

const ENOUGH_DB = 0.002
const MOST_ROUNDS = 40

/**
 * The setting at which the first limit is reached, found by solving again: from one solution power is
 * raised by its least headroom, and so on, which is one step on a linear chain and a few with an amplifier.
 *
 * @param counts which stresses count; all unless given
 */
export function mostPower(
  chain: RatedChain,
  at: OperatingPoint,
  around: Surroundings,
  counts: (stress: Stress) => boolean = () => true,
): MostPower {
  // A tuner finds the same setting at any power.
  const fixed = phaseUnknown(chain.load) ? at : { ...at, settings: settingsNow(chain, at) }
  let powerW = Math.max(at.powerW, 1e-3)
  let low = 0
  let high = Infinity
  let last: { by: Stress | null; unknown: number } = { by: null, unknown: 0 }
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const stresses = checkLimits(chain, { ...fixed, powerW }, around).stresses.filter(counts)
    const by = tightest(stresses)
    last = { by, unknown: stresses.filter(({ limit }) => limit === null).length }
    const swr = brokenBySwr(stresses)
    if (swr) return { powerW: 0, by: swr, unknown: last.unknown }
    if (by === null || by.headroomDb === null) return { powerW: Infinity, ...last }
    if (Math.abs(by.headroomDb) < ENOUGH_DB) return { powerW, ...last }
    if (by.headroomDb > 0) low = powerW
    else high = powerW
    const next = powerW * 10 ** (by.headroomDb / 10)
    // A saturated amplifier gives no more for any drive: then halve the bracket instead.
    powerW =
      next > low && next < high
        ? next
        : Number.isFinite(high)
          ? Math.sqrt(Math.max(low, high * 1e-3) * high)
          : next
    if (powerW > 1e7) return { powerW: Infinity, ...last }
  }
  return { powerW: low, ...last }
}
