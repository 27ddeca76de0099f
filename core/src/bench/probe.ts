import { InputError } from '../errors.ts'
import { type Propagated, propagate, type Uncertain } from '../statistics/propagate.ts'

export interface Probe {
  /** What the voltmeter shows behind the diode, V. */
  volts: Uncertain
  /** The divider before the diode: volts on the line per volt at the diode. */
  divider: Uncertain
  /** Drop of the diode at this current, V. */
  diodeV: Uncertain
  /** Of the load, Ω. */
  ohm: Uncertain
}

export interface ProbeResult {
  /** Peak envelope power, W. */
  watts: Propagated
  peakV: number
  rmsV: number
}

/**
 * Power of a steady carrier from a peak detector across a load: P = ((V·k + V_d)/√2)²/R, with the divider
 * k and the diode's drop V_d. The drop is stated at the line, as the probe's own check on a known power
 * gives it.
 *
 * @example probePower({ volts: { value: 70, doubt: 0 }, divider: { value: 1, doubt: 0 }, diodeV: { value: 0.7, doubt: 0 }, ohm: { value: 50, doubt: 0 } }).watts.value
 *   // 49.98
 */
export function probePower({ volts, divider, diodeV, ohm }: Probe): ProbeResult {
  if (!(volts.value > 0)) throw new InputError('The probe must show more than 0 V.', ['volts'])
  if (!(ohm.value > 0)) throw new InputError('The load must have more than 0 Ω.', ['ohm'])
  const peakV = volts.value * divider.value + diodeV.value
  return {
    watts: propagate(
      { voltmeter: volts, divider, 'diode drop': diodeV, load: ohm },
      (v) => (v.voltmeter * v.divider + v['diode drop']) ** 2 / (2 * v.load),
    ),
    peakV,
    rmsV: peakV / Math.SQRT2,
  }
}
