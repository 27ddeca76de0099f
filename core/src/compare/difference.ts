/** Whether one chain gives more than another for sure: both are drawn together, so that what they share cancels. */
import type { Chain, OperatingPoint } from '../chain/chain.ts'
import { checkChain } from '../chain/checkChain.ts'
import { fastWaves } from '../chain/fastWaves.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { drawReflection, SOURCE_BY_BAND } from '../chain/drawStation.ts'
import { circleCentre } from '../load/load.ts'
import { modelOf, type Stage } from '../stages/stage.ts'
import { type Estimate, estimateOf } from '../statistics/quantile.ts'
import { half, type Random, seeded } from '../statistics/random.ts'

/** `more`, `less`: in nineteen of twenty draws; `same`: both within a twentieth of a decibel; else `unknown`. */
export type Surer = 'more' | 'less' | 'same' | 'unknown'

/** Watts at the antenna of the second chain over those of the first, dB, with the 5 to 95 % of it. */
export interface Difference extends Estimate {
  is: Surer
}

/** A chain with what it is run at, one operating point a channel. */
export interface Side {
  chain: Chain
  at: readonly OperatingPoint[]
  /** What each stage is; two that are called alike are one and the same part, and err alike. */
  names: readonly string[]
  /** The same for the antenna. */
  load: string
}

/** Nothing that anybody could measure, dB. */
const NOTHING_DB = 0.05

/**
 * The difference of two chains on each channel. A part that both have is drawn once for both; so is the transmitter,
 * and the antenna where it is the same.
 *
 * @throws InputError where a chain has no answer
 */
export function differences(
  first: Side,
  second: Side,
  tolerances: Tolerances,
  { draws, seed }: { draws: number; seed: number },
): Difference[] {
  const ready = [first, second].map(prepared)
  const db = first.at.map(() => new Float64Array(draws))
  for (let i = 0; i < draws; i++) {
    const source = streamOf(seed, i, 'transmitter')
    const level = 1 + half(source) * tolerances.source
    const own = first.at.map(() => level * (1 + half(source) * tolerances.source * SOURCE_BY_BAND))
    const [a, b] = ready.map((side) => side.watts(tolerances, seed, i, own))
    for (let c = 0; c < db.length; c++) db[c]![i] = 10 * Math.log10(b![c]! / a![c]!)
  }
  return db.map((values) => {
    const estimate = estimateOf(values)
    return { ...estimate, is: surerOf(estimate) }
  })
}

function surerOf({ low, high }: Estimate): Surer {
  if (low > -NOTHING_DB && high < NOTHING_DB) return 'same'
  if (low > 0) return 'more'
  if (high < 0) return 'less'
  return 'unknown'
}

function prepared({ chain, at, names, load }: Side) {
  for (const point of at) checkChain(chain, point)
  const solvers = at.map((point) => fastWaves(chain, point))
  const stages: Stage[] = chain.stages.map((stage) => modelOf(stage).varied?.copy(stage) ?? stage)
  const round = at.map(({ frequencyHz }) => circleCentre(chain.load, frequencyHz))
  return {
    /** Watts at the antenna of one draw, by channel. */
    watts: (tolerances: Tolerances, seed: number, draw: number, source: readonly number[]) => {
      chain.stages.forEach((from, k) =>
        modelOf(from).varied?.draw(from, stages[k]!, tolerances, streamOf(seed, draw, names[k]!)),
      )
      return at.map(({ powerW }, c) => {
        const random = streamOf(seed, draw, `${load} ${c}`)
        const reflection = drawReflection(solvers[c]!.reflection, tolerances, random, round[c]!)
        const { forwardW, rho } = solvers[c]!.solve(
          stages,
          reflection,
          Math.max(0, powerW * source[c]!),
        )
        const last = forwardW.length - 1
        return forwardW[last]! * (1 - rho[last]! ** 2)
      })
    },
  }
}

/** The same numbers for the same part in the same draw (FNV-1a over its name). */
function streamOf(seed: number, draw: number, name: string): Random {
  let hash = 0x811c9dc5 ^ seed
  for (const text of [name, String(draw)])
    for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193)
  return seeded(hash)
}
