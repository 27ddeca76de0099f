import type { Range } from '../statistics/quantile.ts'
import { phaseUnknown } from '../load/load.ts'
import { extremesOf } from './allRound.ts'
import type { Chain, OperatingPoint, TunerSettings } from './chain.ts'
import { checkChain, checkCovered } from './checkChain.ts'
import { solveChain } from './solve.ts'
import type { Solution } from './solution.ts'
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
 * Solves a chain; where only the antenna's SWR is known, for all phases of its reflection. The solution given is then the one
 * whose power at the antenna is the middle of the range: see `middlePhase`.
 *
 * @example answerChain(chain, at).solution.antennaW // 57.53
 */
export function answerChain(chain: Chain, at: OperatingPoint): Answer {
  if (!phaseUnknown(chain.load, at.frequencyHz))
    return { solution: solveChain(chain, at), spread: null }
  checkChain(chain, at)
  checkCovered(chain, at.frequencyHz)
  const figuresAt = chainFigures(chain, at)
  const round = roundOf(chain, at)
  const solve = (phase: number, settings: TunerSettings) => ({
    phase,
    figures: figuresAt(phase, settings),
  })
  const all = turnChain(round, {
    solve,
    // What comes back of a match is next to nothing, and no extreme of that is worth a search.
    figuresOf: ({ figures }) => figures.filter((_, i) => !isReflected(chain, i)),
  })
  const range = (index: number) => extremesOf(all, ({ figures }) => figures[index]!)
  const ranges = <Name extends string>(names: readonly Name[], from: number) =>
    Object.fromEntries(names.map((name, i) => [name, range(from + i)])) as Record<Name, Range>
  const antenna = ofPlane(chain.stages.length)
  const antennaW = range(antenna)
  const phase = middlePhase(
    all.map(({ phase, figures }) => ({ phase, watts: figures[antenna]! })),
    (antennaW.low + antennaW.high) / 2,
    (phase) => figuresAt(phase, round.settingsAt(phase))[antenna]!,
  )
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

/** What a section has to withstand, whatever the phase of the load: the highest anywhere along it, V and A rms, W/m. */
export type LineRanges = Record<'maxVoltageRms' | 'maxCurrentRms' | 'maxHeatWPerM', Range>

/**
 * The ranges of what the section at an index has to withstand, over all phases that the load's reflection could have.
 *
 * @returns null where the phase is known, or the stage is no line
 */
export function lineRanges(chain: Chain, at: OperatingPoint, stage: number): LineRanges | null {
  if (!phaseUnknown(chain.load, at.frequencyHz) || chain.stages[stage]?.kind !== 'line') return null
  const names = ['maxVoltageRms', 'maxCurrentRms', 'maxHeatWPerM'] as const
  const all = turnChain(roundOf(chain, at), {
    solve: (phase, settings) => solveChain(chain, { ...at, settings }, phase).stages[stage]!.line!,
    figuresOf: (line) => names.map((name) => line[name].value),
  })
  return Object.fromEntries(
    names.map((name) => [name, extremesOf(all, (line) => line[name].value)]),
  ) as LineRanges
}

/** So near the middle, as a share of it, is near enough; and after so many steps what there is. */
const NEAR = 1e-9
const MOST_STEPS = 60

/**
 * The phase at which the watts are in the middle between their least and their most: the first one going up from the least
 * in the direction of rising phase. Another metre of line in front of the load turns all phases alike, and so finds the same.
 * Where the watts jump over the middle, the nearer side of the jump.
 *
 * @param known phases round the circle (rad, rising) with their watts, extremes among them
 * @param wattsAt the watts at any phase
 */
export function middlePhase(
  known: readonly { phase: number; watts: number }[],
  middle: number,
  wattsAt: (phase: number) => number,
): number {
  const least = known.reduce((best, own, i) => (own.watts < known[best]!.watts ? i : best), 0)
  const from = (i: number) => known[(least + i) % known.length]!
  let up = 1
  while (up < known.length && from(up).watts < middle) up++
  if (up >= known.length) return from(0).phase
  let low = from(up - 1)
  let high = from(up)
  if (high.phase < low.phase) high = { ...high, phase: high.phase + 2 * Math.PI }
  // Regula falsi, halved where one end stays: Illinois.
  let [weightLow, weightHigh] = [1, 1]
  for (let step = 0; step < MOST_STEPS && high.phase - low.phase > 1e-12; step++) {
    const below = weightLow * (middle - low.watts)
    const above = weightHigh * (high.watts - middle)
    const share = below + above > 0 ? below / (below + above) : 0.5
    // At a jump the ends never come near: then it is halved.
    const phase = low.phase + (high.phase - low.phase) * (step % 3 === 2 ? 0.5 : share)
    const watts = wattsAt(phase % (2 * Math.PI))
    if (Math.abs(watts - middle) <= NEAR * middle) return phase % (2 * Math.PI)
    if (watts < middle) {
      low = { phase, watts }
      ;[weightLow, weightHigh] = [1, weightHigh / 2]
    } else {
      high = { phase, watts }
      ;[weightLow, weightHigh] = [weightLow / 2, 1]
    }
  }
  const nearer = middle - low.watts < high.watts - middle ? low : high
  return nearer.phase % (2 * Math.PI)
}

/** Power at the antenna, W: of an antenna of unknown phase the middle of its range, also where relays jump over it. */
export const middleW = ({ solution, spread }: Answer): number =>
  spread ? (spread.antennaW.low + spread.antennaW.high) / 2 : solution.antennaW

const isReflected = ({ stages }: Chain, index: number): boolean =>
  index < ofPlane(stages.length + 1) && PLANE_FIGURES[index % PLANE_FIGURES.length] === 'reflectedW'
