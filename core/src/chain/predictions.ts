/** What is predicted at a plane, with its range, for many powers on one frequency. */
import { phaseUnknown } from '../load/load.ts'
import { swrOf } from '../load/reflection.ts'
import type { PredictedPlane } from '../measure/expectReading.ts'
import { estimateOf } from '../statistics/quantile.ts'
import { seeded } from '../statistics/random.ts'
import type { Phasors } from './phasors.ts'
import { checkChain } from './checkChain.ts'
import type { Chain } from './chain.ts'
import { type ReadPoint, withEnd } from './farEnd.ts'
import { stationDraws } from './drawStation.ts'
import { fastWaves } from './fastWaves.ts'
import { answerChain } from './phaseRange.ts'
import type { Tolerances } from './tolerances.ts'

/**
 * Predictions of a chain on one frequency and mode: parts and load are drawn, and tuners set, once for all powers.
 * Ahead of an amplifier every figure goes with the power; behind one, each draw is driven anew. The ranges are
 * those of `drawChain` with the same seed on one channel.
 *
 * @returns forward watts and SWR at a plane for a set power, W
 * @throws InputError where the chain has no answer there
 */
export function predictions(
  given: Chain,
  at: Omit<ReadPoint, 'powerW'>,
  tolerances: Tolerances,
  { draws, seed }: { draws: number; seed: number },
): (powerW: number, plane: number) => PredictedPlane {
  const chain = withEnd(given, at.farEnd)
  const one = { ...at, powerW: 1 }
  checkChain(chain, one)
  const { nominal, walked, driven } = fastWaves(chain, one)
  const anyPhase = phaseUnknown(chain.load, at.frequencyHz)
  const draw = stationDraws(chain, [one], tolerances)
  const random = seeded(seed)
  const drawn: { phasors: Phasors; factor: number }[] = []
  for (let i = 0; i < draws; i++) {
    const { stages, powerW, reflection } = draw(random)
    drawn.push({ phasors: walked(stages, reflection[0]!), factor: powerW[0]! })
  }
  const amplifier = chain.stages.findIndex((s) => s.kind === 'amplifier' && !s.bypassed)
  const linear = (plane: number) => amplifier < 0 || plane <= amplifier

  const middle = remembered((powerW: number) => {
    if (anyPhase || powerW === 1) return answerChain(chain, { ...at, powerW }).solution.planes
    const { forwardW, rho } = driven(nominal, powerW)
    return Array.from(forwardW, (watts, k) => ({ forwardW: watts, swr: swrOf(rho[k]!) }))
  })
  const spread = remembered((powerW: number) =>
    drawn.map(({ phasors, factor }) => driven(phasors, powerW * factor)),
  )
  const ranges = remembered((key: string) => {
    const [powerW, plane] = key.split(' ').map(Number) as [number, number]
    const all = spread(powerW)
    return {
      forwardW: estimateOf(all.map(({ forwardW }) => forwardW[plane]!)),
      swr: estimateOf(all.map(({ rho }) => swrOf(rho[plane]!))),
    }
  })
  return (powerW, plane) => {
    const asked = linear(plane) ? 1 : powerW
    const times = linear(plane) ? powerW : 1
    const { forwardW, swr } = middle(asked)[plane]!
    const range = ranges(`${asked} ${plane}`)
    const { low, high } = range.forwardW
    return {
      forwardW: forwardW * times,
      swr,
      ranges: { forwardW: { low: low * times, high: high * times }, swr: range.swr },
    }
  }
}

/** Keeps the last few answers: readings of one power come together. */
function remembered<K, V>(make: (key: K) => V, most = 64): (key: K) => V {
  const known = new Map<K, V>()
  return (key) => {
    const found = known.get(key)
    if (found !== undefined) return found
    if (known.size >= most) known.clear()
    const made = make(key)
    known.set(key, made)
    return made
  }
}
