import type { Range } from '../statistics/quantile.ts'
import { phaseUnknown } from '../load/load.ts'
import { extremesOf } from './allRound.ts'
import type { Chain, OperatingPoint } from './chain.ts'
import { checkChain, checkCovered } from './checkChain.ts'
import { type Solution, solveChain } from './solve.ts'
import { chainFigures, ofPlane, ofStage, PLANE_FIGURES, STAGE_FIGURES } from './chainFigures.ts'
import { roundOf, turnChain } from './turnChain.ts'

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
  checkChain(chain, at)
  checkCovered(chain, at.frequencyHz)
  const figuresAt = chainFigures(chain, at)
  const all = turnChain(roundOf(chain, at), {
    solve: (phase, settings) => ({ phase, figures: figuresAt(phase, settings) }),
    // What comes back of a match is next to nothing, and no extreme of that is worth a search.
    figuresOf: ({ figures }) => figures.filter((_, i) => !isReflected(chain, i)),
  })
  const range = (index: number) => extremesOf(all, ({ figures }) => figures[index]!)
  const ranges = <Name extends string>(names: readonly Name[], from: number) =>
    Object.fromEntries(names.map((name, i) => [name, range(from + i)])) as Record<Name, Range>
  const antenna = ofPlane(chain.stages.length)
  const antennaW = range(antenna)
  const middle = (antennaW.low + antennaW.high) / 2
  const fromMiddle = ({ figures }: (typeof all)[number]) => Math.abs(figures[antenna]! - middle)
  const { phase } = all.reduce((best, own) => (fromMiddle(own) < fromMiddle(best) ? own : best))
  const solution = solveChain(chain, at, phase)
  return {
    solution,
    spread: {
      phaseUnknown: true,
      antennaW,
      transmitterNetW: range(ofPlane(0)),
      planes: solution.planes.map((_, k) => ranges(PLANE_FIGURES, ofPlane(k))),
      stages: solution.stages.map((_, k) => ranges(STAGE_FIGURES, ofStage(chain, k))),
    },
  }
}

const isReflected = ({ stages }: Chain, index: number): boolean =>
  index < ofPlane(stages.length + 1) && PLANE_FIGURES[index % PLANE_FIGURES.length] === 'reflectedW'
