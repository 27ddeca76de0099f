/**
 * An antenna near one resonance, as a series circuit: Z = R + jR·Q·(f/f₀ − f₀/f). And its fit to a few
 * readings of an SWR meter.
 */
import type { ReflectionCircle } from './circle.ts'
import type { Range } from '../statistics/quantile.ts'
import { type Complex, complex, magnitude } from '../complex.ts'
import { InputError } from '../errors.ts'
import { reflectionOf, swrOf } from './reflection.ts'

export interface ResonatorLoad {
  kind: 'resonator'
  resonanceHz: number
  /** Resistance at resonance, Ω. */
  rOhm: number
  q: number
}

/** The impedance of a series resonance, R + jRQ(f/f₀ − f₀/f), Ω. */
export const resonatorImpedance = (load: ResonatorLoad, frequencyHz: number): Complex => {
  const x = frequencyHz / load.resonanceHz
  return complex(load.rOhm, load.rOhm * load.q * (x - 1 / x))
}

export interface SwrReading {
  frequencyHz: number
  swr: number
  /** Where the reflection may lie, if the SWR was read through lines of another impedance. */
  circle?: ReflectionCircle | undefined
}

export interface ResonatorFit {
  load: ResonatorLoad
  /**
   * The same readings are explained by R above and by R below the reference; SWR alone cannot tell.
   * This is the other one.
   */
  alternative: ResonatorLoad
  /** Root mean square of (read − fitted)/fitted SWR; the honest doubt about a figure in between. */
  rms: number
  readings: (SwrReading & { fittedSwr: number; residual: number })[]
  /** SWR between which the truth likely lies at a frequency, from the scatter of the readings. */
  rangeAt: (frequencyHz: number) => Range
}

/** What a fit may come to; a document can hold no more. */
const LEAST_Q = 0.5
const MOST_Q = 2000

/** Rounds of refining; a resonance within its readings needs some hundred. */
const MOST_ROUNDS = 400

/** A needle is rarely read better than this, relative SWR. */
const READING_FLOOR = 0.03

const swrAt = (load: ResonatorLoad, hz: number, referenceOhm: number): number =>
  swrOf(magnitude(reflectionOf(resonatorImpedance(load, hz), referenceOhm)))

/**
 * Fits resonance, resistance and Q to SWR readings of one band; three are enough.
 *
 * Least squares on log SWR by a grid over resonance and Q with the resistance from the least SWR,
 * refined by coordinate descent: three unknowns, no start value to guess.
 *
 * Bounded in time whatever the readings; how badly they fit is `rms`.
 *
 * @throws InputError with fewer than three different frequencies, or an SWR under 1
 */
export function fitResonator(readings: readonly SwrReading[], referenceOhm: number): ResonatorFit {
  readings.forEach(({ swr, frequencyHz }, i) => {
    if (!(swr >= 1))
      throw new InputError(`Reading ${i + 1}: an SWR is 1 or more, not ${swr}.`, [i, 'swr'])
    if (!(frequencyHz > 0))
      throw new InputError(`Reading ${i + 1}: give a frequency.`, [i, 'frequencyHz'])
  })
  if (new Set(readings.map((r) => r.frequencyHz)).size < 3)
    throw new InputError('Three readings at different frequencies are needed.')
  const low = Math.min(...readings.map((r) => r.frequencyHz))
  const high = Math.max(...readings.map((r) => r.frequencyHz))
  const cost = (load: ResonatorLoad) =>
    readings.reduce(
      (sum, r) => sum + Math.log(swrAt(load, r.frequencyHz, referenceOhm) / r.swr) ** 2,
      0,
    )

  const solve = (above: boolean): ResonatorLoad => {
    let best: ResonatorLoad = {
      kind: 'resonator',
      resonanceHz: (low + high) / 2,
      rOhm: referenceOhm,
      q: 10,
    }
    let bestCost = Infinity
    const consider = (load: ResonatorLoad) => {
      const c = possible(load) ? cost(load) : Infinity
      if (c < bestCost) {
        bestCost = c
        best = load
      }
    }
    // Not far beyond the readings, and not down to nothing where they span more than an octave.
    const reach = Math.min((high - low) * 0.75, low * 0.5)
    const possible = ({ resonanceHz, q, rOhm }: ResonatorLoad) =>
      resonanceHz > 0 && q >= LEAST_Q && q <= MOST_Q && rOhm >= 0.1 && rOhm <= 10_000
    const lowest = Math.min(...readings.map((r) => r.swr))
    for (let i = 0; i <= 60; i++) {
      const resonanceHz = low - reach + ((high - low + 2 * reach) * i) / 60
      for (let k = 0; k <= 40; k++) {
        const q = 10 ** (k / 16)
        for (let s = 0; s <= 6; s++) {
          const swr = 1 + ((lowest - 1) * s) / 6
          consider({
            kind: 'resonator',
            resonanceHz,
            q,
            rOhm: above ? referenceOhm * swr : referenceOhm / swr,
          })
        }
      }
    }
    let steps = [(high - low) / 60, 0.15, 0.1]
    for (let round = 0; round < MOST_ROUNDS; round++) {
      if (steps[0]! <= 1e-8 * best.resonanceHz && steps[1]! <= 1e-6) break
      const before = bestCost
      const centre = best
      for (const sign of [-1, 1]) {
        consider({ ...centre, resonanceHz: centre.resonanceHz + sign * steps[0]! })
        consider({ ...centre, q: centre.q * (1 + sign * steps[1]!) })
        const rOhm = centre.rOhm * (1 + sign * steps[2]!)
        consider({
          ...centre,
          rOhm: above ? Math.max(referenceOhm, rOhm) : Math.min(referenceOhm, rOhm),
        })
      }
      if (bestCost >= before) steps = steps.map((step) => step / 2)
    }
    return best
  }
  const [over, under] = [solve(true), solve(false)]
  const [load, alternative] = cost(over) <= cost(under) ? [over, under] : [under, over]
  const judged = readings.map((r) => {
    const fittedSwr = swrAt(load, r.frequencyHz, referenceOhm)
    return { ...r, fittedSwr, residual: r.swr / fittedSwr - 1 }
  })
  const rms = Math.sqrt(judged.reduce((sum, r) => sum + r.residual ** 2, 0) / judged.length)
  const doubt = 2 * Math.max(rms, READING_FLOOR)
  return {
    load,
    alternative,
    rms,
    readings: judged,
    rangeAt: (hz) => {
      const both = [load, alternative].map((l) => swrAt(l, hz, referenceOhm))
      return {
        low: Math.max(1, Math.min(...both) * (1 - doubt)),
        high: Math.max(...both) * (1 + doubt),
      }
    },
  }
}
