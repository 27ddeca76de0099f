import type { Range } from '../statistics/quantile.ts'
import { phaseUnknown } from '../load/load.ts'
import { allRound, extremesOf, lookOf } from './allRound.ts'
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

/**
 * Solves a chain; where only the antenna's SWR is known, for all phases of its reflection. The
 * solution given is then the one whose antenna power lies nearest to the middle of the range.
 *
 * @example answerChain(chain, at).solution.antennaW // 57.53
 */
export function answerChain(chain: Chain, at: OperatingPoint): Answer {
  if (!phaseUnknown(chain.load, at.frequencyHz))
    return { solution: solveChain(chain, at), spread: null }
  const all = allRound(lookOf(chain), (phase) => solveChain(chain, at, phase), figuresOf)
  const antennaW = extremesOf(all, (s) => s.antennaW)
  const middle = (antennaW.low + antennaW.high) / 2
  const solution = all.reduce((best, s) =>
    Math.abs(s.antennaW - middle) < Math.abs(best.antennaW - middle) ? s : best,
  )
  return {
    solution,
    spread: {
      phaseUnknown: true,
      antennaW,
      transmitterNetW: extremesOf(all, (s) => s.transmitterNetW),
      planes: solution.planes.map((_, k) => ({
        netW: extremesOf(all, (s) => s.planes[k]!.netW),
        swr: extremesOf(all, (s) => s.planes[k]!.swr),
        forwardW: extremesOf(all, (s) => s.planes[k]!.forwardW),
        reflectedW: extremesOf(all, (s) => s.planes[k]!.reflectedW),
        voltageRms: extremesOf(all, (s) => s.planes[k]!.voltageRms),
      })),
      stages: solution.stages.map((_, k) => ({
        lossW: extremesOf(all, (s) => s.stages[k]!.lossW),
        lossDb: extremesOf(all, (s) => s.stages[k]!.lossDb),
      })),
    },
  }
}

/** What the extremes that are told hang on. */
const figuresOf = ({ antennaW, transmitterNetW, planes, stages }: Solution): number[] => [
  antennaW,
  transmitterNetW,
  ...planes.flatMap((p) => [p.netW, p.swr, p.forwardW, p.voltageRms]),
  ...stages.map(({ lossW }) => lossW),
]
