/** How far the truth may lie from a prediction: the chain drawn many times within what is known of it. */
import { complex, type Complex } from '../complex.ts'
import { phaseUnknown } from '../load/load.ts'
import { varianceOf } from '../statistics/propagate.ts'
import { type Estimate, estimateOf } from '../statistics/quantile.ts'
import { type Random, seeded, half } from '../statistics/random.ts'
import { swrOf } from '../load/reflection.ts'
import { checkChain } from './checkChain.ts'
import type { Chain, OperatingPoint } from './chain.ts'
import { type FastWaves, fastWaves } from './fastWaves.ts'
import { type ToleranceName, toleranceNames, type Tolerances } from './tolerances.ts'
import { variedStages } from './variedStages.ts'

/** Draws of forward power and |ρ| at every plane of one channel: plane · draws + draw. */
export interface ChannelDraws {
  draws: number
  planes: number
  forwardW: Float64Array
  rho: Float64Array
}

/** A reflection smaller than this is not known better than this, |ρ| at nineteen in twenty. */
const LEAST_REFLECTION = 0.03
/** How much a radio differs from band to band, as a share of its own tolerance. */
export const SOURCE_BY_BAND = 0.4

/**
 * Draws a chain on several channels at once: each draw is one chain, the same for all of them.
 *
 * @param at one operating point a channel
 * @param progress called now and then with the share that is done
 */
export function drawChain(
  chain: Chain,
  at: readonly OperatingPoint[],
  tolerances: Tolerances,
  { draws, seed, progress }: { draws: number; seed: number; progress?: (share: number) => void },
): ChannelDraws[] {
  for (const point of at) checkChain(chain, point)
  const random = seeded(seed)
  const solvers = at.map((point) => fastWaves(chain, point))
  const varied = variedStages(chain.stages)
  const out = at.map((): ChannelDraws => {
    const size = draws * (chain.stages.length + 1)
    return {
      draws,
      planes: chain.stages.length + 1,
      forwardW: new Float64Array(size),
      rho: new Float64Array(size),
    }
  })
  const anyPhase = at.map(({ frequencyHz }) => phaseUnknown(chain.load, frequencyHz))
  for (let i = 0; i < draws; i++) {
    varied.draw(tolerances, random)
    const source = 1 + half(random) * tolerances.source
    for (let c = 0; c < at.length; c++) {
      const own = source * (1 + half(random) * tolerances.source * SOURCE_BY_BAND)
      const load = drawReflection(solvers[c]!, tolerances, random, anyPhase[c]!)
      const { forwardW, rho } = solvers[c]!.solve(
        varied.stages,
        load,
        Math.max(0, at[c]!.powerW * own),
      )
      for (let k = 0; k < forwardW.length; k++) {
        out[c]!.forwardW[k * draws + i] = forwardW[k]!
        out[c]!.rho[k * draws + i] = rho[k]!
      }
    }
    if (progress && i % 100 === 99) progress((i + 1) / draws)
  }
  return out
}

/**
 * A reflection of the load as it may really be: within the tolerance (a share of its size) around the one
 * given, at any angle where the angle is unknown; never above 0.999.
 *
 * @param random uniform in 0 to 1
 */
export function drawReflection(
  { reflection }: Pick<FastWaves, 'reflection'>,
  tolerances: Tolerances,
  random: Random,
  anyPhase: boolean,
): Complex {
  const size = Math.hypot(reflection.re, reflection.im)
  if (tolerances.reflection === 0 && !anyPhase) return reflection
  const spread = Math.max(LEAST_REFLECTION, size * tolerances.reflection)
  const wide = tolerances.reflection === 0 ? 0 : spread
  let { re, im } = reflection
  if (anyPhase) {
    const phase = 2 * Math.PI * random()
    re = size * Math.cos(phase)
    im = size * Math.sin(phase)
  }
  re += half(random) * wide
  im += half(random) * wide
  const now = Math.hypot(re, im)
  return now < 0.999 ? complex(re, im) : complex((re * 0.999) / now, (im * 0.999) / now)
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
  at: readonly OperatingPoint[],
  tolerances: Tolerances,
  {
    draws = 2000,
    seed = 1,
    progress,
  }: { draws?: number; seed?: number; progress?: (share: number) => void } = {},
): ChannelUncertainty[] {
  const all = drawChain(chain, at, tolerances, {
    draws,
    seed,
    ...(progress && { progress: (share: number) => progress(share * 0.75) }),
  })
  const none = Object.fromEntries(toleranceNames.map((name) => [name, 0])) as unknown as Tolerances
  const alone = toleranceNames.map((name, i) => {
    const own = drawChain(chain, at, { ...none, [name]: tolerances[name] }, { draws: ALONE, seed })
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
