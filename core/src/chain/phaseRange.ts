import type { Range } from '../statistics/quantile.ts'
import { phaseUnknown } from '../load/load.ts'
import type { Chain, OperatingPoint } from './chain.ts'
import { type Solution, solveChain } from './solve.ts'

/** Lowest and highest values over all phases that the load's reflection could have. */
export interface Spread {
  /** True where the load's phase makes it, so that no impedance has one value. */
  phaseUnknown: boolean
  antennaW: Range
  transmitterNetW: Range
  planes: { netW: Range; swr: Range; forwardW: Range; reflectedW: Range; voltageRms: Range }[]
  stages: { lossW: Range; lossDb: Range }[]
}

/** A solution to draw, and the spread around it where the load's phase is not known. */
export interface Answer {
  solution: Solution
  spread: Spread | null
}

/** One phase every 4°: between neighbours a smooth quantity moves by less than 0.1 % of its range. */
const PHASES = 90
/** Fewer where a tuner searches its setting for each. */
const SEARCHED_PHASES = 24

/**
 * Solves a chain; where only the antenna's SWR is known, for all phases of its reflection. The
 * solution given is then the one whose antenna power lies nearest to the middle of the range.
 *
 * @example answerChain(chain, at).solution.antennaW // 57.53
 */
export function answerChain(chain: Chain, at: OperatingPoint): Answer {
  if (!phaseUnknown(chain.load, at.frequencyHz))
    return { solution: solveChain(chain, at), spread: null }
  const searched = chain.stages.some(
    (stage) => stage.kind === 'tuner' && stage.method !== 'given' && !stage.bypassed,
  )
  const all = phases(searched ? SEARCHED_PHASES : PHASES).map((phase) =>
    solveChain(chain, at, phase),
  )
  const antennaW = rangeOf(all, (s) => s.antennaW)
  const middle = (antennaW.low + antennaW.high) / 2
  const solution = all.reduce((best, s) =>
    Math.abs(s.antennaW - middle) < Math.abs(best.antennaW - middle) ? s : best,
  )
  return {
    solution,
    spread: {
      phaseUnknown: true,
      antennaW,
      transmitterNetW: rangeOf(all, (s) => s.transmitterNetW),
      planes: solution.planes.map((_, k) => ({
        netW: rangeOf(all, (s) => s.planes[k]!.netW),
        swr: rangeOf(all, (s) => s.planes[k]!.swr),
        forwardW: rangeOf(all, (s) => s.planes[k]!.forwardW),
        reflectedW: rangeOf(all, (s) => s.planes[k]!.reflectedW),
        voltageRms: rangeOf(all, (s) => s.planes[k]!.voltageRms),
      })),
      stages: solution.stages.map((_, k) => ({
        lossW: rangeOf(all, (s) => s.stages[k]!.lossW),
        lossDb: rangeOf(all, (s) => s.stages[k]!.lossDb),
      })),
    },
  }
}

/** `count` phases evenly round the circle, radians. */
export const phases = (count: number): number[] =>
  Array.from({ length: count }, (_, i) => (2 * Math.PI * i) / count)

function rangeOf(all: readonly Solution[], pick: (s: Solution) => number): Range {
  let low = Infinity
  let high = -Infinity
  for (const s of all) {
    const value = pick(s)
    if (value < low) low = value
    if (value > high) high = value
  }
  return { low, high }
}
