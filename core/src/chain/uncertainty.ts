/** How far the truth may lie from a prediction: the chain drawn many times within what is known of it. */
import { varianceOf } from '../statistics/propagate.ts'
import { type Estimate, estimateOf } from '../statistics/quantile.ts'
import { seeded } from '../statistics/random.ts'
import { swrOf } from '../load/reflection.ts'
import { checkChain } from './checkChain.ts'
import type { Chain } from './chain.ts'
import { type ReadPoint, withEnd } from './farEnd.ts'
import { type DrawOptions, stationDraws } from './drawStation.ts'
import { type FastWaves, fastWaves } from './fastWaves.ts'
import { type ToleranceName, toleranceNames, type Tolerances } from './tolerances.ts'

/** Draws of forward power and |ρ| at every plane of one channel: plane · draws + draw. */
export interface ChannelDraws {
  draws: number
  planes: number
  forwardW: Float64Array
  rho: Float64Array
  /** By draw: 1 where every tuner matches. */
  matched: Uint8Array
}

/**
 * Draws a chain on several channels at once: each draw is one chain, the same for all of them.
 *
 * @param at one operating point a channel
 * @param progress called now and then with the share that is done
 */
export function drawChain(
  chain: Chain,
  at: readonly ReadPoint[],
  tolerances: Tolerances,
  {
    draws,
    seed,
    progress,
    solvers = at.map((point) => fastWaves(withEnd(chain, point.farEnd), point)),
  }: {
    draws: number
    seed: number
    progress?: (share: number) => void
    /** Of the same chain and points, where there are any already: they learn what its tuners do. */
    solvers?: readonly FastWaves[]
  },
): ChannelDraws[] {
  for (const point of at) checkChain(chain, point)
  const random = seeded(seed)
  const drawn = stationDraws(chain, at, tolerances)
  const out = at.map((): ChannelDraws => {
    const size = draws * (chain.stages.length + 1)
    return {
      draws,
      planes: chain.stages.length + 1,
      forwardW: new Float64Array(size),
      rho: new Float64Array(size),
      matched: new Uint8Array(draws),
    }
  })
  for (let i = 0; i < draws; i++) {
    const { stages, powerW, reflection } = drawn(random)
    for (let c = 0; c < at.length; c++) {
      const own = solvers[c]!.solve(stages, reflection[c]!, powerW[c]!)
      const { forwardW, rho } = own
      for (let k = 0; k < forwardW.length; k++) {
        out[c]!.forwardW[k * draws + i] = forwardW[k]!
        out[c]!.rho[k * draws + i] = rho[k]!
      }
      out[c]!.matched[i] = own.matched ? 1 : 0
    }
    if (progress && i % 100 === 99) progress((i + 1) / draws)
  }
  return out
}

/** One plane's figures with their ranges. */
export interface PlaneRange {
  forwardW: Estimate
  reflectedW: Estimate
  netW: Estimate
  swr: Estimate
}

/** What a channel comes to, with the 5 to 95 % of it. */
export interface ChannelUncertainty {
  antennaW: Estimate
  transmitterNetW: Estimate
  /** Loss from setting to antenna, dB. */
  lossDb: Estimate
  planes: PlaneRange[]
  stages: { lossW: Estimate; lossDb: Estimate }[]
  /** Share of the variance of the antenna's watts that each kind of doubt makes, largest first. */
  because: { name: ToleranceName; share: number }[]
}

const ALONE = 160

/** Uncertainty of the prediction on several channels; see `drawChain`. */
export function chainUncertainty(
  chain: Chain,
  at: readonly ReadPoint[],
  tolerances: Tolerances,
  { draws = 2000, seed = 1, progress }: DrawOptions = {},
): ChannelUncertainty[] {
  for (const point of at) checkChain(chain, point)
  const solvers = at.map((point) => fastWaves(withEnd(chain, point.farEnd), point))
  const all = drawChain(chain, at, tolerances, {
    draws,
    seed,
    solvers,
    ...(progress && { progress: (share: number) => progress(share * 0.75) }),
  })
  const none = Object.fromEntries(toleranceNames.map((name) => [name, 0])) as unknown as Tolerances
  const alone = toleranceNames.map((name, i) => {
    const own = drawChain(
      chain,
      at,
      { ...none, [name]: tolerances[name] },
      {
        draws: ALONE,
        seed,
        solvers,
      },
    )
    progress?.(0.75 + (0.25 * (i + 1)) / toleranceNames.length)
    return own.map((channel) => varianceOf(netAt(channel, channel.planes - 1)))
  })
  return all.map((channel, c) => {
    const antenna = netAt(channel, channel.planes - 1)
    const settingW = at[c]!.powerW
    const total = alone.reduce((sum, variances) => sum + variances[c]!, 0)
    return {
      antennaW: estimateOf(antenna),
      transmitterNetW: estimateOf(netAt(channel, 0)),
      lossDb: estimateOf(antenna.map((w) => 10 * Math.log10(settingW / w))),
      planes: planeRanges(channel),
      stages: stageRanges(channel),
      because: toleranceNames
        .map((name, i) => ({ name, share: total > 0 ? alone[i]![c]! / total : 0 }))
        .filter(({ share }) => share > 0.01)
        .sort((a, b) => b.share - a.share),
    }
  })
}

/** The ranges of every plane of one channel's draws. */
export const planeRanges = (channel: ChannelDraws): PlaneRange[] =>
  Array.from({ length: channel.planes }, (_, k) => {
    const forward = planeOf(channel.forwardW, channel, k)
    const rho = planeOf(channel.rho, channel, k)
    return {
      forwardW: estimateOf(forward),
      reflectedW: estimateOf(forward.map((w, i) => w * rho[i]! ** 2)),
      netW: estimateOf(netAt(channel, k)),
      swr: estimateOf(rho.map(swrOf)),
    }
  })

function stageRanges(channel: ChannelDraws): ChannelUncertainty['stages'] {
  const nets = Array.from({ length: channel.planes }, (_, k) => netAt(channel, k))
  return nets.slice(1).map((out, k) => {
    const into = nets[k]!
    return {
      lossW: estimateOf(into.map((w, i) => w - out[i]!)),
      lossDb: estimateOf(into.map((w, i) => 10 * Math.log10(w / out[i]!))),
    }
  })
}

const planeOf = (values: Float64Array, { draws }: ChannelDraws, plane: number) =>
  values.subarray(plane * draws, (plane + 1) * draws)

function netAt(channel: ChannelDraws, plane: number): Float64Array {
  const rho = planeOf(channel.rho, channel, plane)
  return planeOf(channel.forwardW, channel, plane).map((w, i) => w * (1 - rho[i]! ** 2))
}
