/** Figures of the bench, read off a sweep of an open or shorted line instead of being typed. */
import { returnLossDb } from '../load/reflection.ts'
import type { Reflections } from '../sweep/evenSweep.ts'

/**
 * The return loss at some of the frequencies of a sweep, evenly spread; each the mean of its neighbourhood, so that the
 * ripple of a small mismatch at the analyser averages out.
 *
 * @param count at most
 * @returns Hz and dB
 */
export function returnLosses(
  { frequencyHz, re, im }: Reflections,
  count: number,
): { frequencyHz: number; db: number }[] {
  const n = frequencyHz.length
  const used = Math.min(count, n)
  return Array.from({ length: used }, (_, i) => {
    const from = Math.floor((i * n) / used)
    const to = Math.max(from + 1, Math.floor(((i + 1) * n) / used))
    let db = 0
    let hz = 0
    for (let k = from; k < to; k++) {
      db += returnLossDb(Math.min(1, Math.hypot(re[k]!, im[k]!)))
      hz += frequencyHz[k]!
    }
    return { frequencyHz: hz / (to - from), db: db / (to - from) }
  })
}

/**
 * Frequencies at which the impedance dips, Hz: an open line is a short there, after one, three, five quarter waves, a
 * shorted one after two, four. It dips where the reflection is at 180°, between two points of the sweep.
 *
 * @example impedanceDips({ frequencyHz: [1, 2], re: [-0.9, -0.9], im: [-0.1, 0.3] }) // [1.25]
 */
export function impedanceDips({ frequencyHz, re, im }: Reflections): number[] {
  const found: number[] = []
  let last = -Infinity
  for (let k = 1; k < frequencyHz.length; k++) {
    const [a, b] = [im[k - 1]!, im[k]!]
    // With rising frequency the reflection turns clockwise: at 180° its imaginary part goes from below to above.
    if (!(a < 0 && b >= 0) || re[k - 1]! >= 0 || re[k]! >= 0) continue
    // Noise crosses there and back: that is one dip.
    if (k - last > NOISE_STEPS)
      found.push(frequencyHz[k - 1]! + (a / (a - b)) * (frequencyHz[k]! - frequencyHz[k - 1]!))
    last = k
  }
  return found
}

const NOISE_STEPS = 3
