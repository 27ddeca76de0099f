/** One chain as it may really be: the one draw that ranges, diagnosis, benchmarks and drills share. */
import { complex, type Complex } from '../complex.ts'
import { onCircle } from '../load/circle.ts'
import { circleCentre, reflectionAt } from '../load/load.ts'
import { impedanceOf } from '../load/reflection.ts'
import { half, type Random } from '../statistics/random.ts'
import type { Stage } from '../stages/stage.ts'
import { type Chain, referenceOf } from './chain.ts'
import { type ReadPoint, sameSetting, withEnd } from './farEnd.ts'
import type { Tolerances } from './tolerances.ts'
import { variedStages } from './variedStages.ts'

/** How a chain is drawn many times. */
export interface DrawOptions {
  draws?: number
  /** The same seed, the same draws. */
  seed?: number
  /** Called now and then with the share that is done. */
  progress?: (share: number) => void
}

export interface DrawnStation {
  /** The same array each time, its stages drawn anew in place. */
  stages: Stage[]
  /** Set power on each channel, W. */
  powerW: number[]
  /** Of the load on each channel, on the reference. */
  reflection: Complex[]
}

/** A reflection smaller than this is not known better than this, |ρ| at nineteen in twenty. */
export const LEAST_REFLECTION = 0.03
/** No load is taken to reflect more unless it is written down so. */
export const MOST_REFLECTION = 0.999
/** How much a radio differs from band to band, as a share of its own tolerance. */
export const SOURCE_BY_BAND = 0.4

/**
 * Draws a chain on some channels within what is known of it: its parts, the radio's power, which differs a little from
 * band to band, and the reflection of the antenna, or of what took its place, on each.
 *
 * @param at one operating point a channel
 */
export function stationDraws(
  chain: Chain,
  at: readonly ReadPoint[],
  tolerances: Tolerances,
): (random: Random) => DrawnStation {
  const reference = referenceOf(chain)
  const varied = variedStages(chain.stages)
  const endTolerances = {
    ...tolerances,
    reflection: tolerances.reflection && LEAST_REFLECTION,
  }
  const loads = at.map((point) => {
    const { frequencyHz, farEnd = 'antenna' } = point
    const { load } = withEnd(chain, farEnd)
    return {
      reflection: reflectionAt(load, frequencyHz, reference),
      round: circleCentre(load, frequencyHz),
      tolerances: farEnd === 'antenna' ? tolerances : endTolerances,
      // On one frequency an antenna is the same at any power,
      as: at.findIndex(
        (other) => other.frequencyHz === frequencyHz && (other.farEnd ?? 'antenna') === farEnd,
      ),
      // and a setting of the radio gives the same whatever the line ends in.
      sourceAs: at.findIndex((other) => sameSetting(other, point)),
    }
  })
  return (random) => {
    varied.draw(tolerances, random)
    const source = 1 + half(random) * tolerances.source
    const powerW: number[] = []
    const reflection: Complex[] = []
    at.forEach((point, c) => {
      const load = loads[c]!
      // Drawn in any case, so that a seed gives the same parts however many channels share a frequency.
      const own = source * (1 + half(random) * tolerances.source * SOURCE_BY_BAND)
      powerW.push(powerW[load.sourceAs] ?? Math.max(0, point.powerW * own))
      const drawn = drawReflection(load.reflection, load.tolerances, random, load.round)
      reflection.push(reflection[load.as] ?? drawn)
    })
    return { stages: varied.stages, powerW, reflection }
  }
}

/** A chain as it was drawn, its load known on one channel. */
export function drawnChain<C extends Chain>(
  chain: C,
  { stages, reflection }: DrawnStation,
  channel: number,
): C {
  const z = impedanceOf(reflection[channel]!, referenceOf(chain))
  return { ...chain, stages, load: { kind: 'fixed', rOhm: z.re, xOhm: z.im } }
}

/**
 * A reflection of the load as it may really be: within the tolerance (a share of its size) around the one
 * given, at any angle where the angle is unknown; never above 0.999, or above its own size where that is more: a short whip
 * returns all but some hundredths of a per cent.
 *
 * @param round the middle of the circle it may be anywhere on; null where it is known
 * @param random uniform in 0 to 1
 */
export function drawReflection(
  reflection: Complex,
  tolerances: Tolerances,
  random: Random,
  round: Complex | null,
): Complex {
  if (tolerances.reflection === 0 && !round) return reflection
  const wide = 2 * deviationOf(reflection, tolerances.reflection)
  let { re, im } = reflection
  if (round) {
    const radius = Math.hypot(re - round.re, im - round.im)
    ;({ re, im } = onCircle({ ...round, radius }, 2 * Math.PI * random()))
  }
  return boundedReflection(
    complex(re + half(random) * wide, im + half(random) * wide),
    mostOf({ re, im }),
  )
}

/** How far the real and the imaginary part of a reflection may each be off, one deviation; none where nothing may. */
export const deviationOf = ({ re, im }: Complex, tolerance: number): number =>
  tolerance === 0 ? 0 : Math.max(LEAST_REFLECTION, Math.hypot(re, im) * tolerance) / 2

/** How much a load that is written down may return however far off it is, |ρ|. */
export const mostOf = ({ re, im }: Complex): number => Math.max(MOST_REFLECTION, Math.hypot(re, im))

/** The same angle, and no more than the most. */
export function boundedReflection(rho: Complex, most = MOST_REFLECTION): Complex {
  const size = Math.hypot(rho.re, rho.im)
  if (size <= most) return rho
  return complex((rho.re * most) / size, (rho.im * most) / size)
}
