/** The most power a chain may run on a channel, and the part that sets it. */
import { settingsNow } from '../chain/tunerSettings.ts'
import type { Chain, OperatingPoint, TunerSettings } from '../chain/chain.ts'
import { solveChain } from '../chain/solve.ts'
import type { Solution } from '../chain/solution.ts'
import { checkChain, checkCovered } from '../chain/checkChain.ts'
import { type Round, roundOf, turnChain } from '../chain/turnChain.ts'
import { phaseUnknown } from '../load/load.ts'
import type { RatedStage } from './ratings.ts'
import type { Stress } from '../stages/stress.ts'
import { brokenBySwr, stressesOf, type Surroundings, tightest } from './stress.ts'

export type RatedChain = Omit<Chain, 'stages'> & { stages: readonly RatedStage[] }

/** Stresses at one operating point: of every part the worst over all phases that the load may have. */
export interface Checked {
  stresses: Stress[]
  /** The solution of the worst phase. */
  solution: Solution
}

/**
 * Holds every part of a chain against its limits at a power.
 *
 * An antenna of unknown phase is turned all round; each part counts with its worst.
 *
 * @param at frequency (Hz), power (W) and mode
 * @param around temperature, height, key-down time
 * @throws InputError as `solve`
 */
export function checkLimits(chain: RatedChain, at: OperatingPoint, around: Surroundings): Checked {
  return checkAround(chain, at, around, roundIfTurning(chain, at))
}

/** How the tuners stand all round, where the phase of the load is not known. */
function roundIfTurning(chain: RatedChain, at: OperatingPoint): Round | null {
  if (!phaseUnknown(chain.load, at.frequencyHz)) return null
  checkChain(chain, at)
  checkCovered(chain, at.frequencyHz)
  return roundOf(chain, at)
}

function checkAround(
  chain: RatedChain,
  at: OperatingPoint,
  around: Surroundings,
  round: Round | null,
): Checked {
  const solve = (phase: number, settings?: TunerSettings): Checked => {
    const solution = solveChain(chain, settings ? { ...at, settings } : at, phase)
    return { solution, stresses: stressesOf(chain.stages, solution, around) }
  }
  const all = round
    ? turnChain(round, {
        solve,
        figuresOf: ({ stresses }) => stresses.map(({ stress }) => stress),
      })
    : [solve(0)]
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

/** The bracket around the most power is closed to this ratio: 0.05 %. */
const CLOSE = 1.0005
const MOST_ROUNDS = 80
/** More than any transmitter gives, W: where no limit has been met by then, none is known. */
const NO_LIMIT_W = 1e7
/** Less than this is nothing, W. */
const NOTHING_W = 1e-9

/**
 * The setting at which the first limit is reached, with the worst of all phases that the load may have.
 *
 * @param counts which stresses count; all unless given
 */
export function mostPower(
  chain: RatedChain,
  at: OperatingPoint,
  around: Surroundings,
  counts: (stress: Stress) => boolean = () => true,
): MostPower {
  const stresses = stressesByPower(chain, at, around)
  return mostPowerOf((powerW) => stresses(powerW).filter(counts), at.powerW)
}

/**
 * The stresses of a chain by the power that is set (W PEP), of each part the worst over all phases that the load may have.
 * Tuners are set once: they find the same setting at any power.
 */
export function stressesByPower(
  chain: RatedChain,
  at: OperatingPoint,
  around: Surroundings,
): (powerW: number) => Stress[] {
  const round = roundIfTurning(chain, at)
  const fixed = round ? at : { ...at, settings: settingsNow(chain, at) }
  return (powerW) => checkAround(chain, { ...fixed, powerW }, around, round).stresses
}

/**
 * The power at which the first of some stresses reaches its limit: bracketed between a power at which all is well and one
 * at which it is not, then narrowed. What is given out was looked at, and is never above a limit.
 *
 * @param stressesAt what the parts bear at a power, W PEP
 * @param startW where to look first, W PEP
 */
export function mostPowerOf(
  stressesAt: (powerW: number) => readonly Stress[],
  startW: number,
): MostPower {
  let low = 0
  let high = Infinity
  let powerW = Math.max(startW, 1e-3)
  let limiting: Stress | null = null
  let unknown = 0
  for (let round = 0; round < MOST_ROUNDS && high / low > CLOSE; round++) {
    const stresses = stressesAt(powerW)
    unknown = stresses.filter(({ limit }) => limit === null).length
    const swr = brokenBySwr(stresses)
    if (swr) return { powerW: 0, by: swr, unknown }
    const by = tightest(stresses)
    if (by === null) return { powerW: Infinity, by, unknown }
    const headroomDb = by.headroomDb!
    if (headroomDb >= 0) {
      low = powerW
      limiting = by
    } else {
      high = powerW
      limiting ??= by
      if (high < NOTHING_W) return { powerW: 0, by, unknown }
    }
    if (low > NO_LIMIT_W) return { powerW: Infinity, by, unknown }
    powerW = nextPower(low, high, powerW * 10 ** (headroomDb / 10), headroomDb < 0, round)
  }
  return { powerW: low, by: limiting, unknown }
}

/**
 * Where to look next. On a linear chain the headroom says where the limit is, and a look at either side of
 * it closes the bracket; a saturated amplifier gives no more for any drive, and then the bracket is grown
 * or halved.
 */
function nextPower(low: number, high: number, guess: number, over: boolean, round: number): number {
  const aside = CLOSE ** 0.4
  const target = over ? guess / aside : guess * aside
  if (high === Infinity) return Math.max(target, low * (round < 3 ? 1 : 2))
  if (low === 0) return Math.min(target, high * (round < 3 ? 1 : 0.5))
  const bracketed = target > low && target < high
  return bracketed && round % 3 !== 2 ? target : Math.sqrt(low * high)
}
