/** How far a sweep may lie from what the chain as it is written down shows, and still be as expected. */
import { complex } from '../complex.ts'
import { type Chain, referenceOf } from '../chain/chain.ts'
import { boundedReflection, LEAST_REFLECTION, mostOf } from '../chain/drawStation.ts'
import { newPhasors } from '../chain/phasors.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { variedStages } from '../chain/variedStages.ts'
import { walk } from '../chain/walk.ts'
import { quantileSorted } from '../statistics/quantile.ts'
import { half, normal, seeded } from '../statistics/random.ts'
import { antennaOver, ENDS, reflectionInFront } from './alongLine.ts'
import type { FarEnd } from '../chain/farEnd.ts'
import { below, usualAnalyser } from './analyserErrors.ts'

/** |ρ| at some frequencies: 5 to 95 % of what an analyser would show. */
export interface SweepRange {
  frequencyHz: Float64Array
  low: Float64Array
  high: Float64Array
}

const DRAWS = 160
/** More points make the range no better. */
const MOST_POINTS = 201

/**
 * The chain drawn many times within what is known of it, each time seen by an analyser that adds its leak, sends back some of what
 * comes to it, and scatters.
 *
 * @param frequencyHz rising; of many, evenly chosen ones are taken
 * @returns null where what the antenna reflects over the sweep is not known
 */
export function sweepRange(
  chain: Chain,
  plane: number,
  frequencyHz: ArrayLike<number>,
  farEnd: FarEnd,
  tolerances: Tolerances,
  { analyser = usualAnalyser, draws = DRAWS, seed = 1 } = {},
): SweepRange | null {
  const count = Math.min(MOST_POINTS, frequencyHz.length)
  const hz = Float64Array.from(
    { length: count },
    (_, i) => frequencyHz[Math.round((i * (frequencyHz.length - 1)) / Math.max(1, count - 1))]!,
  )
  const antenna = farEnd === 'antenna' ? antennaOver(chain, hz) : null
  if (farEnd === 'antenna' && !antenna) return null
  const reference = referenceOf(chain)
  const random = seeded(seed)
  const leak = below(analyser.directivityDb)
  const match = below(analyser.sourceMatchDb)
  const noise = below(analyser.noiseDb)
  const varied = variedStages(chain.stages.slice(plane))
  const phasors = newPhasors(varied.stages.length)
  const sizes = Array.from(hz, () => new Float64Array(draws))
  for (let draw = 0; draw < draws; draw++) {
    varied.draw(tolerances, random)
    const [offRe, offIm] = [half(random), half(random)]
    const [leaks, sendsBack] = [2 * Math.PI * random(), 2 * Math.PI * random()]
    const [matchRe, matchIm] = [match * Math.cos(sendsBack), match * Math.sin(sendsBack)]
    for (let k = 0; k < count; k++) {
      walk(varied.stages, hz[k]!, reference, loadAt(k), phasors)
      const { re, im } = reflectionInFront(phasors, reference)
      const [twiceRe, twiceIm] = [re * re - im * im, 2 * re * im]
      sizes[k]![draw] = Math.hypot(
        re +
          leak * Math.cos(leaks) +
          matchRe * twiceRe -
          matchIm * twiceIm +
          noise * normal(random),
        im +
          leak * Math.sin(leaks) +
          matchRe * twiceIm +
          matchIm * twiceRe +
          noise * normal(random),
      )
    }
    function loadAt(k: number) {
      if (farEnd !== 'antenna') return ENDS[farEnd]
      const own = antenna![k]!
      const spread =
        tolerances.reflection === 0
          ? 0
          : Math.max(LEAST_REFLECTION, Math.hypot(own.re, own.im) * tolerances.reflection)
      return boundedReflection(
        complex(own.re + offRe * spread, own.im + offIm * spread),
        mostOf(own),
      )
    }
  }
  const at = (share: number) =>
    Float64Array.from(sizes, (own) => quantileSorted(own.toSorted(), share))
  return { frequencyHz: hz, low: at(0.05), high: at(0.95) }
}

/** Where a sweep leaves its range for more than a point: the stretch that strays furthest. */
export interface Outside {
  lowHz: number
  highHz: number
  /** |ρ| at its worst place, measured, and the range there. */
  measured: number
  low: number
  high: number
}

/**
 * @param rho |ρ| as it is measured at the frequencies of the range
 * @returns null where it is as expected: a tenth of all points may lie outside by chance, a stretch of them may not
 */
export function outsideOf(
  { frequencyHz, low, high }: SweepRange,
  rho: ArrayLike<number>,
): Outside | null {
  const over = (k: number) => Math.max(rho[k]! - high[k]!, low[k]! - rho[k]!)
  let worst: Outside | null = null
  let most = 0
  for (let k = 0; k < frequencyHz.length;) {
    let end = k
    let peak = k
    while (end < frequencyHz.length && over(end) > 0) {
      if (over(end) > over(peak)) peak = end
      end++
    }
    if (end - k > LEAST_RUN * frequencyHz.length && over(peak) > Math.max(most, LEAST_OVER)) {
      most = over(peak)
      worst = {
        ...{ lowHz: frequencyHz[k]!, highHz: frequencyHz[end - 1]!, measured: rho[peak]! },
        ...{ low: low[peak]!, high: high[peak]! },
      }
    }
    k = Math.max(k + 1, end)
  }
  return worst
}

/** A shorter stretch, as a share of the sweep, or less beyond the range, |ρ|, is chance. */
const LEAST_RUN = 0.02
const LEAST_OVER = 0.03
