/** A station with a hidden cause, read by imperfect meters: for checks, for the demo, for learning. */
import { type Complex, complex } from '../complex.ts'
import { type Chain, type OperatingPoint, referenceOf } from '../chain/chain.ts'
import { solveChain } from '../chain/solve.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { half, even, normal, type Random, seeded } from '../statistics/random.ts'
import { variedStages } from '../chain/variedStages.ts'
import { reflectionAt } from '../load/load.ts'
import { impedanceOf } from '../load/reflection.ts'
import { rangeFor, readingDoubtW, shownOf, leakOf } from '../measure/meter.ts'
import { meanToPeakOf } from '../source/modes.ts'
import type { Stage } from '../stages/stage.ts'
import type { Case, Channel, MeterReading, Site } from './evidence.ts'
import { aged, changedReflection, type Cause, insertPad, standing } from './causes.ts'

/**
 * One chain as it really is: every figure a little off, by the tolerances. The parts that are drawn are
 * those of `drawChain`; the solving here is exact.
 */
export function realChain(
  chain: Chain,
  channels: readonly Channel[],
  tolerances: Tolerances,
  random: Random,
): { stages: Stage[]; powerW: number[]; reflection: Complex[] } {
  const { stages, draw } = variedStages(chain.stages)
  draw(tolerances, random)
  const source = 1 + half(random) * tolerances.source
  const reference = referenceOf(chain)
  return {
    stages,
    powerW: channels.map((at) => at.powerW * source * (1 + half(random) * tolerances.source * 0.4)),
    reflection: channels.map((at) => {
      const own = reflectionAt(chain.load, at.frequencyHz, reference)
      const spread = Math.max(0.03, Math.hypot(own.re, own.im) * tolerances.reflection)
      return complex(own.re + half(random) * spread, own.im + half(random) * spread)
    }),
  }
}

/**
 * Reads a station at some sites. The same seed gives the same station and the same readings; another
 * `readingSeed` reads the same station, with the same instruments, once more.
 */
export function simulateReadings(
  { chain, channels, instruments, tolerances }: Omit<Case, 'readings'>,
  sites: readonly Site[],
  cause: Cause,
  seed: number,
  readingSeed = seed + 0x5bd1,
): MeterReading[] {
  const once = seeded(seed)
  const real = realChain(chain, channels, tolerances, once)
  // A meter is off by so much of its accuracy on all its readings, and by as much again on each.
  const offs = instruments.map(() => even(once))
  const random = seeded(readingSeed)
  const solved = new Map<number, { forwardW: number; rho: number }[]>()
  const wavesAt = (point: number) => {
    const known = solved.get(point)
    if (known) return known
    const waves = realWaves(chain, channels[point]!, real, cause, point)
    solved.set(point, waves)
    return waves
  }
  return sites.map((site, i) => {
    const { forwardW, rho } = wavesAt(site.point)[site.plane]!
    const meter = instruments[site.instrument]!
    const { emission } = channels[site.point]!
    const speech =
      meanToPeakOf(emission) > 0.6 ? 0 : normal(random) * (meter.kind === 'averaging' ? 1 : 0.4)
    const factor =
      cause.kind === 'meter' && cause.instrument === site.instrument
        ? cause.factor
        : cause.kind === 'averaging' && cause.instrument === site.instrument
          ? meanToPeakOf(emission)
          : 1
    const true_ = shownOf(meter, forwardW, emission) * 10 ** (speech / 10) * factor
    const seen = Math.abs(rho + leakOf(meter) * Math.cos(2 * Math.PI * random()))
    const common = cause.kind === 'common mode' ? normal(random) * cause.rho : 0
    const rangeW = rangeFor(meter, true_)
    const read = (watts: number) => {
      const doubt = readingDoubtW(meter, watts, rangeFor(meter, watts))
      const off = Math.SQRT1_2 * (offs[site.instrument]! + even(random))
      return Math.max(0, watts + doubt * off)
    }
    const slip =
      cause.kind === 'slip' && cause.reading === i ? 10 ** ((normal(random) * 4) / 10) : 1
    const rhoRead = Math.min(0.98, Math.abs(seen + common))
    return {
      ...site,
      forwardW: read(true_) * slip,
      reflectedW: read(true_ * rhoRead ** 2),
      ...(rangeW !== null && { rangeW }),
    }
  })
}

function realWaves(
  chain: Chain,
  at: OperatingPoint,
  real: ReturnType<typeof realChain>,
  cause: Cause,
  point: number,
): { forwardW: number; rho: number }[] {
  const reference = referenceOf(chain)
  const here = !('point' in cause) || cause.point === null || cause.point === point
  let stages: Stage[] = real.stages
  let load = real.reflection[point]!
  let powerW = real.powerW[point]!
  let dropped = -1
  if (here && cause.kind === 'transmitter') powerW *= 10 ** (cause.db / 10)
  if (cause.kind === 'aged') stages = aged(stages, cause)
  if (cause.kind === 'loss') {
    stages = insertPad(stages, cause.to, cause.db)
    dropped = cause.to + 1
  }
  if (here && cause.kind === 'antenna') {
    const nominal = reflectionAt(chain.load, at.frequencyHz, reference)
    const changed = changedReflection(chain.load, cause.change, at.frequencyHz, reference)
    load = complex(load.re + changed.re - nominal.re, load.im + changed.im - nominal.im)
  }
  const size = Math.hypot(load.re, load.im)
  if (size > 0.98) load = complex((load.re * 0.98) / size, (load.im * 0.98) / size)
  const z = impedanceOf(load, reference)
  const solution = solveChain(
    { ...chain, stages, load: { kind: 'fixed', rOhm: z.re, xOhm: z.im } },
    {
      ...at,
      powerW,
      ...(cause.kind === 'antenna' && !cause.retuned && { settings: standing(chain, at) }),
    },
  )
  return solution.planes
    .filter((_, plane) => plane !== dropped)
    .map(({ forwardW, reflectedW }) => ({ forwardW, rho: Math.sqrt(reflectedW / forwardW) }))
}
