/** How sure it is what a tuner is worth: one chain drawn many times, the same draws with the tuner in each place. */
import { swrOf } from '../load/reflection.ts'
import { type Estimate, estimateOf } from '../statistics/quantile.ts'
import { seeded } from '../statistics/random.ts'
import type { TunerStage } from '../tuner/kinds.ts'
import type { Chain, OperatingPoint } from './chain.ts'
import { checkChain } from './checkChain.ts'
import { type DrawOptions, stationDraws } from './drawStation.ts'
import { fastWaves } from './fastWaves.ts'
import type { Tolerances } from './tolerances.ts'
import { heldBackOf, type TunerPlace, tunerPlaces, withTunerAt } from './worthTuner.ts'

/** The figures of a `PlaceAnswer`, with the 5 to 95 % of each. */
export interface PlaceRanges {
  place: TunerPlace
  antennaW: Estimate
  tunerW: Estimate
  cableW: Estimate
  heldBackW: Estimate
  swr: Estimate
  /** Share of the draws in which no other place brings 0.1 dB more to the antenna. */
  best: number
}

/** What 0.1 dB leaves of watts: less is no difference. */
const NO_DIFFERENCE = 10 ** -0.01

/**
 * One tuner in all three places, on several channels.
 *
 * @param at one operating point a channel
 * @returns for each channel the places in the order of `tunerPlaces`
 * @throws InputError as `solveChain`
 */
export function worthUncertainty(
  chain: Chain,
  tuner: TunerStage,
  at: readonly OperatingPoint[],
  tolerances: Tolerances,
  { draws = 1000, seed = 1, progress }: DrawOptions = {},
): PlaceRanges[][] {
  for (const point of at) checkChain(chain, point)
  const bare = withTunerAt(chain, tuner, 'none')
  const draw = stationDraws(bare, at, tolerances)
  const random = seeded(seed)
  const places = tunerPlaces.map((place) => {
    const placed = withTunerAt(chain, tuner, place)
    return {
      place,
      index: placed.stages.findIndex(({ kind }) => kind === 'tuner'),
      solvers: at.map((point) => fastWaves(placed, point)),
      figures: at.map(() => newFigures(draws)),
    }
  })
  for (let i = 0; i < draws; i++) {
    const { stages, powerW, reflection } = draw(random)
    for (const { index, solvers, figures } of places) {
      const placed = index < 0 ? stages : stages.toSpliced(index, 0, tuner)
      at.forEach((_, c) => {
        const { forwardW, rho } = solvers[c]!.solve(placed, reflection[c]!, powerW[c]!)
        const net = forwardW.map((w, k) => w * (1 - rho[k]! ** 2))
        const own = figures[c]!
        own.antennaW[i] = net[net.length - 1]!
        own.tunerW[i] = index < 0 ? 0 : net[index]! - net[index + 1]!
        own.cableW[i] = heatOf(net) - own.tunerW[i]!
        own.heldBackW[i] = heldBackOf(powerW[c]!, net[0]!)
        own.swr[i] = swrOf(rho[0]!)
      })
    }
    if (progress && i % 50 === 49) progress((i + 1) / draws)
  }
  return at.map((_, c) => {
    const most = places[0]!.figures[c]!.antennaW.map((_w, i) =>
      Math.max(...places.map(({ figures }) => figures[c]!.antennaW[i]!)),
    )
    return places.map(({ place, figures }) => {
      const own = figures[c]!
      return {
        place,
        antennaW: estimateOf(own.antennaW),
        tunerW: estimateOf(own.tunerW),
        cableW: estimateOf(own.cableW),
        heldBackW: estimateOf(own.heldBackW),
        swr: estimateOf(own.swr),
        best: own.antennaW.filter((w, i) => w >= NO_DIFFERENCE * most[i]!).length / draws,
      }
    })
  })
}

type Figures = Record<Exclude<keyof PlaceRanges, 'place' | 'best'>, Float64Array>

const newFigures = (draws: number): Figures => ({
  antennaW: new Float64Array(draws),
  tunerW: new Float64Array(draws),
  cableW: new Float64Array(draws),
  heldBackW: new Float64Array(draws),
  swr: new Float64Array(draws),
})

/** What all stages take that take anything, W. */
function heatOf(net: Float64Array): number {
  let heat = 0
  for (let k = 1; k < net.length; k++) heat += Math.max(0, net[k - 1]! - net[k]!)
  return heat
}
