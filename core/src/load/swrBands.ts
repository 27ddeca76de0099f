/** An antenna whose SWR is known on each band separately: a reading or a few on every band. */
import {
  fitResonator,
  type ResonatorFit,
  resonatorImpedance,
  type SwrReading,
} from './resonator.ts'
import type { ReflectionCircle } from './circle.ts'
import { reflectionOf, rhoOfSwr } from './reflection.ts'

/** Readings of one band, in any order. */
export interface SwrBand<R extends SwrReading = SwrReading> {
  readings: readonly R[]
  /** Where a single reading holds; 2 % to either side unless given. */
  lowHz?: number | undefined
  highHz?: number | undefined
}

export interface SwrBandsLoad {
  kind: 'bands'
  bands: readonly SwrBand[]
}

/** How far a single reading holds where nothing is said of it. */
const SINGLE_SHARE = 0.02

/** A resonance that misses its readings by more than this (root mean square, relative) is none. */
const MOST_RMS = 0.15

/** Readings further apart than this ratio are on different bands. */
const SAME_BAND = 1.12

/**
 * Where a band's readings give a figure, Hz: between them; a single one a little to either side.
 *
 * @example rangeOfBand({ readings: [{ frequencyHz: 7.1e6, swr: 1.5 }] }) // [6958000, 7242000]
 */
export function rangeOfBand({ readings, lowHz, highHz }: SwrBand): [low: number, high: number] {
  const all = readings.map(({ frequencyHz }) => frequencyHz)
  const [low, high] = [Math.min(...all), Math.max(...all)]
  return low < high
    ? [low, high]
    : [
        Math.min(low, lowHz ?? low * (1 - SINGLE_SHARE)),
        Math.max(low, highHz ?? low * (1 + SINGLE_SHARE)),
      ]
}

/** The band that has a figure at a frequency; undefined where none has. */
export const bandAt = ({ bands }: SwrBandsLoad, hz: number): SwrBand | undefined =>
  bands.find((band) => {
    const [low, high] = rangeOfBand(band)
    return hz >= low && hz <= high
  })

/**
 * Puts a reading among the bands: into the one it lies in or next to, else into a new one. Bands and
 * readings stay in order of frequency.
 *
 * @example withReading([], { frequencyHz: 7.1e6, swr: 1.5 }).length // 1
 */
export function withReading<R extends SwrReading>(
  bands: readonly SwrBand<R>[],
  reading: R,
): SwrBand<R>[] {
  const { frequencyHz } = reading
  const near = bands.findIndex((band) => {
    const [low, high] = rangeOfBand(band)
    return frequencyHz >= low / SAME_BAND && frequencyHz <= high * SAME_BAND
  })
  const sorted = (readings: readonly R[]) =>
    readings.toSorted((a, b) => a.frequencyHz - b.frequencyHz)
  const next =
    near < 0
      ? [...bands, { readings: [reading] }]
      : bands.map((band, i) =>
          i === near
            ? {
                ...band,
                readings: sorted([
                  ...band.readings.filter((own) => own.frequencyHz !== frequencyHz),
                  reading,
                ]),
              }
            : band,
        )
  return next.toSorted((a, b) => rangeOfBand(a)[0] - rangeOfBand(b)[0])
}

/** Of the same band object the fit is always the same. */
const fits = new WeakMap<SwrBand, ResonatorFit | null>()

/** The resonance that explains a band's readings; null with fewer than three, or where none does. */
export function fitOfBand(band: SwrBand, referenceOhm: number): ResonatorFit | null {
  const known = fits.get(band)
  if (known !== undefined) return known
  const several = new Set(band.readings.map(({ frequencyHz }) => frequencyHz)).size >= 3
  const fit = several ? fitResonator(band.readings, referenceOhm) : null
  const good = fit && fit.rms <= MOST_RMS ? fit : null
  fits.set(band, good)
  return good
}

/**
 * Reflection at a frequency inside a band, written as [re, im] into `out`. Where there is no fit, |ρ| is
 * interpolated between the readings and stands in `out[0]`.
 *
 * @returns whether the phase is known too
 */
export function writeBandReflection(
  band: SwrBand,
  hz: number,
  referenceOhm: number,
  out: Float64Array,
): boolean {
  const fit = fitOfBand(band, referenceOhm)
  if (fit) {
    const { re, im } = reflectionOf(resonatorImpedance(fit.load, hz), referenceOhm)
    out[0] = re
    out[1] = im
    return true
  }
  out[0] = circleOfBand(band, hz).radius
  out[1] = 0
  return false
}

/** Where the reflection may lie at a frequency inside a band that no resonance explains: between those of its readings. */
export function circleOfBand(band: SwrBand, hz: number): ReflectionCircle {
  const sorted = band.readings.toSorted((a, b) => a.frequencyHz - b.frequencyHz)
  const above = sorted.findIndex(({ frequencyHz }) => frequencyHz >= hz)
  const high = sorted[above < 0 ? sorted.length - 1 : above]!
  const low = sorted[Math.max(0, (above < 0 ? sorted.length : above) - 1)]!
  const span = high.frequencyHz - low.frequencyHz
  const t = span > 0 ? Math.min(1, Math.max(0, (hz - low.frequencyHz) / span)) : 0
  const [from, to] = [circleOf(low), circleOf(high)]
  const at = (name: keyof ReflectionCircle) => (1 - t) * from[name] + t * to[name]
  return { re: at('re'), im: at('im'), radius: at('radius') }
}

const circleOf = ({ circle, swr }: SwrReading): ReflectionCircle =>
  circle ?? { re: 0, im: 0, radius: rhoOfSwr(swr) }
