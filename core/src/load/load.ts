import { type Complex, complex, magnitude } from '../complex.ts'
import { InputError, OutOfRangeError } from '../errors.ts'
import { formatFrequency } from '../units/format.ts'
import { reflectionOf, rhoOfSwr } from './reflection.ts'
import { type ResistorsLoad, resistorsImpedance } from './resistors.ts'
import { type ResonatorLoad, resonatorImpedance } from './resonator.ts'

/** The same R + jX (Ω) at every frequency. */
export interface FixedLoad {
  kind: 'fixed'
  rOhm: number
  xOhm: number
}

/** Only an SWR is known; the phase of the reflection is not. */
export interface SwrLoad {
  kind: 'swr'
  swr: number
}

/**
 * A measured or computed sweep: complex reflection on the station's reference (50 Ω unless it
 * says otherwise) at rising frequencies.
 */
export interface SweepLoad {
  kind: 'sweep'
  frequencyHz: ArrayLike<number>
  re: ArrayLike<number>
  im: ArrayLike<number>
  /** True where only |ρ| was measured, as with an SWR meter: it stands in `re`, and `im` is 0. */
  phaseUnknown?: boolean | undefined
}

export type Load = FixedLoad | SwrLoad | SweepLoad | ResonatorLoad | ResistorsLoad

/** Whether only the size of a load's reflection is known. */
export const phaseUnknown = (load: Load): boolean =>
  load.kind === 'swr' || (load.kind === 'sweep' && load.phaseUnknown === true)

/**
 * Index of the interval of `frequencyHz` that holds `hz` (0 … n − 2), or −1 outside the table.
 * Binary search, O(log n).
 */
export function intervalOf(frequencyHz: ArrayLike<number>, hz: number): number {
  const n = frequencyHz.length
  if (n === 0 || hz < frequencyHz[0]! || hz > frequencyHz[n - 1]!) return -1
  let low = 0
  let high = n - 1
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (frequencyHz[middle]! <= hz) low = middle
    else high = middle
  }
  return low
}

/**
 * Reflection of a sweep at a frequency, written as [re, im] into `out`; false outside the table.
 * Between points the complex reflection is interpolated linearly: SWR is not linear and loses the
 * phase, impedance runs away near an open.
 */
export function interpolateReflection(sweep: SweepLoad, hz: number, out: Float64Array): boolean {
  const { frequencyHz, re, im } = sweep
  const i = intervalOf(frequencyHz, hz)
  if (i < 0) return false
  const f0 = frequencyHz[i]!
  const f1 = frequencyHz[i + 1] ?? f0
  const t = f1 > f0 ? (hz - f0) / (f1 - f0) : 0
  out[0] = re[i]! + t * ((re[i + 1] ?? re[i]!) - re[i]!)
  out[1] = im[i]! + t * ((im[i + 1] ?? im[i]!) - im[i]!)
  return true
}

const scratch = new Float64Array(2)

/**
 * Complex reflection of a load at a frequency.
 *
 * @param phaseRad phase to assume where only the SWR is known
 * @throws OutOfRangeError outside a sweep, naming its range; InputError for an active load
 */
export function reflectionAt(
  load: Load,
  frequencyHz: number,
  referenceOhm: number,
  phaseRad = 0,
): Complex {
  switch (load.kind) {
    case 'fixed':
      return reflectionOf(complex(load.rOhm, load.xOhm), referenceOhm)
    case 'resonator':
      return reflectionOf(resonatorImpedance(load, frequencyHz), referenceOhm)
    case 'resistors':
      return reflectionOf(resistorsImpedance(load, frequencyHz), referenceOhm)
    case 'swr': {
      const rho = rhoOfSwr(load.swr)
      return complex(rho * Math.cos(phaseRad), rho * Math.sin(phaseRad))
    }
    case 'sweep': {
      if (!interpolateReflection(load, frequencyHz, scratch)) {
        const low = load.frequencyHz[0] ?? NaN
        const high = load.frequencyHz[load.frequencyHz.length - 1] ?? NaN
        throw new OutOfRangeError(
          `The antenna was measured from ${formatFrequency(low)} to ${formatFrequency(high)}; ` +
            `there is no figure at ${formatFrequency(frequencyHz)}. ` +
            `Choose a channel inside that range or add a wider sweep.`,
          low,
          high,
        )
      }
      const reflection = complex(scratch[0]!, scratch[1])
      if (magnitude(reflection) > 1 + 1e-9) {
        throw new InputError(
          `At ${formatFrequency(frequencyHz)} the sweep says that the antenna sends back more than ` +
            `it gets (|ρ| = ${magnitude(reflection).toFixed(4)}). Check the analyser's calibration.`,
        )
      }
      return load.phaseUnknown
        ? complex(reflection.re * Math.cos(phaseRad), reflection.re * Math.sin(phaseRad))
        : reflection
    }
  }
}
