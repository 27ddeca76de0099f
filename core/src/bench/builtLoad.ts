import { InputError } from '../errors.ts'
import { type ResistorsLoad, resistorsImpedance } from '../load/resistors.ts'
import { swrOfImpedance } from '../load/reflection.ts'
import { REFERENCE_OHM } from '../constants.ts'

export interface BuiltLoad extends Omit<ResistorsLoad, 'kind'> {
  /** What one resistor bears for ever, on its heat sink, W. */
  wattsEach: number
  /** Its resistance by an ohmmeter, Ω; what the resistors say unless given. */
  measuredOhm?: number | undefined
}

export interface BuiltLoadResult {
  ohm: number
  /** Ohmmeter over resistors, less 1; null where it was not measured. */
  offShare: number | null
  /** SWR at DC: how far the resistors are from 50 Ω. */
  swrAtDc: number
  watts: number
  /** Volts RMS across it at that power. */
  volts: number
  /** Highest frequency up to which the SWR stays at or under the limit; null where it never does. */
  usableToHz: number | null
  swrAt: (frequencyHz: number) => number
}

const HIGHEST_HZ = 10e9

/**
 * N equal resistors in parallel as a load: resistance, power, and how far up it is one.
 *
 * @example builtLoad({ ohmEach: 1000, count: 20, inductanceH: 0, capacitanceF: 0, wattsEach: 5 }, 1.5).watts
 *   // 100
 */
export function builtLoad(load: BuiltLoad, swrLimit: number): BuiltLoadResult {
  if (!(load.count >= 1) || !(load.ohmEach > 0))
    throw new InputError('A load needs at least one resistor of more than 0 Ω.', ['count'])
  const nominal = load.ohmEach / load.count
  const ohm = load.measuredOhm ?? nominal
  const real: ResistorsLoad = { ...load, kind: 'resistors', ohmEach: ohm * load.count }
  const swrAt = (hz: number) => swrOfImpedance(resistorsImpedance(real, hz), REFERENCE_OHM)
  const watts = load.wattsEach * load.count
  return {
    ohm,
    offShare: load.measuredOhm === undefined ? null : load.measuredOhm / nominal - 1,
    swrAtDc: swrAt(0),
    watts,
    volts: Math.sqrt(watts * ohm),
    usableToHz: usableTo(swrAt, swrLimit),
    swrAt,
  }
}

/** First frequency at which an SWR passes a limit, from below, by steps and bisection. */
function usableTo(swrAt: (hz: number) => number, limit: number): number | null {
  if (swrAt(0) > limit) return null
  let inside = 0
  for (let hz = 100e3; hz <= HIGHEST_HZ; hz *= 1.02) {
    if (swrAt(hz) > limit) {
      let outside = hz
      for (let i = 0; i < 40; i++) {
        const middle = (inside + outside) / 2
        if (swrAt(middle) <= limit) inside = middle
        else outside = middle
      }
      return inside
    }
    inside = hz
  }
  return Infinity
}
