import { type Complex, complex, divide, magnitude } from '../complex.ts'
import type { Range } from '../statistics/quantile.ts'
import { circleThrough, type ReflectionCircle } from '../load/circle.ts'
import { allRound, extremesOf, phases } from './allRound.ts'
import { newPhasors, newWaves, powerScale, wavesAt } from './phasors.ts'
import { walk } from './walk.ts'
import { opaque, type Stage, writeStage } from '../stages/stage.ts'
import { newAbcd } from '../stages/twoPort.ts'

/** What lies behind some stages, from the reflection measured in front of them. */
export interface Deembedded {
  reflection: Complex
  /**
   * False where |ρ| comes out at 1 or more: the stages lose less than assumed, or the reading is
   * wrong. Nothing passive reflects more than it gets.
   */
  possible: boolean
}

/**
 * Carries a measured reflection through stages toward the load, by the inverse of each ABCD matrix.
 *
 * @param stages from the plane of the measurement to the load
 * @example deembed([line], 10e6, 50, { re: 0.2, im: 0 })
 *   // { reflection: { re: 0.2365, im: 0.1769 }, possible: true }
 */
export function deembed(
  stages: readonly Stage[],
  frequencyHz: number,
  referenceOhm: number,
  measured: Complex,
): Deembedded {
  const abcd = newAbcd()
  let vRe = 1 + measured.re
  let vIm = measured.im
  let iRe = (1 - measured.re) / referenceOhm
  let iIm = -measured.im / referenceOhm
  for (const stage of stages) {
    writeStage(stage, frequencyHz, referenceOhm, abcd)
    const [aRe = 0, aIm = 0, bRe = 0, bIm = 0, cRe = 0, cIm = 0, dRe = 0, dIm = 0] = abcd
    // [A B; C D]⁻¹ = [D −B; −C A]/det; the determinant scales V and I alike and cancels out of ρ.
    const v = complex(
      dRe * vRe - dIm * vIm - (bRe * iRe - bIm * iIm),
      dRe * vIm + dIm * vRe - (bRe * iIm + bIm * iRe),
    )
    const i = complex(
      aRe * iRe - aIm * iIm - (cRe * vRe - cIm * vIm),
      aRe * iIm + aIm * iRe - (cRe * vIm + cIm * vRe),
    )
    // Only their ratio counts, and a long lossy way must not overflow.
    const size = magnitude(v) + magnitude(i) * referenceOhm
    vRe = v.re / size
    vIm = v.im / size
    iRe = i.re / size
    iIm = i.im / size
  }
  const reflection = divide(
    complex(vRe - iRe * referenceOhm, vIm - iIm * referenceOhm),
    complex(vRe + iRe * referenceOhm, vIm + iIm * referenceOhm),
  )
  return { reflection, possible: magnitude(reflection) < 1 }
}

/**
 * The same where only |ρ| was measured: the returning wave has paid the stages' matched loss twice.
 * Exact for a flat line; parts that are not matched turn the phase as well, which nobody knows here.
 *
 * @example deembedSize([line], 10e6, 50, 0.2) // { reflection: { re: 0.311, im: 0 }, possible: true }
 */
export function deembedSize(
  stages: readonly Stage[],
  frequencyHz: number,
  referenceOhm: number,
  measured: number,
): Deembedded {
  const hiding = stages.find(
    ({ kind, bypassed }) => !bypassed && (kind === 'tuner' || kind === 'amplifier'),
  )
  if (hiding) throw opaque(hiding)
  const phasors = newPhasors(stages.length)
  walk(stages, frequencyHz, referenceOhm, complex(0), phasors)
  const into = wavesAt(phasors, 0, referenceOhm, newWaves()).net
  const out = wavesAt(phasors, stages.length, referenceOhm, newWaves()).net
  const size = ((measured * into) / out) * powerScale(phasors, 0, stages.length)
  return { reflection: complex(size), possible: size < 1 }
}

/**
 * The |ρ| that may lie behind some stages where only |ρ| was measured in front of them: the least and the most over all
 * phases that it may have had. On lines of the reference it is what `deembedSize` says; parts that are not matched turn it
 * into a range. 1 where some phase would have to return more than it gets.
 *
 * @example deembedSizeRange([line], 10e6, 50, 0.2) // { low: 0.2953, high: 0.3269 }
 */
export function deembedSizeRange(
  stages: readonly Stage[],
  frequencyHz: number,
  referenceOhm: number,
  measured: number,
): Range {
  const behind = (phase: number): number => {
    const rho = complex(measured * Math.cos(phase), measured * Math.sin(phase))
    return Math.min(1, magnitude(deembed(stages, frequencyHz, referenceOhm, rho).reflection))
  }
  return extremesOf(
    allRound(DEEMBED_PHASES, behind, (size) => [size]),
    (size) => size,
  )
}

/**
 * The circle of reflections at the end of some stages, every one of which shows the same |ρ| in front of them: what an SWR
 * that was read there leaves open. Each stage maps circles onto circles (a bilinear transform).
 *
 * @returns null where it is no circle, or holds nothing that is passive
 * @example feedPointCircle([], 10e6, 50, 0.2).radius // 0.2
 */
export function feedPointCircle(
  stages: readonly Stage[],
  frequencyHz: number,
  referenceOhm: number,
  measured: number,
): ReflectionCircle | null {
  const behind = (turn: number): Complex => {
    const phase = (2 * Math.PI * turn) / 3
    const rho = complex(measured * Math.cos(phase), measured * Math.sin(phase))
    return deembed(stages, frequencyHz, referenceOhm, rho).reflection
  }
  if (measured === 0) return { ...behind(0), radius: 0 }
  const circle = circleThrough([behind(0), behind(1), behind(2)])
  if (!circle) return null
  const { re, im, radius } = circle
  return Math.abs(Math.hypot(re, im) - radius) < 1 ? circle : null
}

const DEEMBED_PHASES = phases(36)
