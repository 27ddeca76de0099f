import { SPEED_OF_LIGHT } from '../constants.ts'
import { InputError } from '../errors.ts'
import { type Propagated, propagate, type Uncertain } from '../statistics/propagate.ts'

/**
 * Velocity factor from a dip of impedance: the line is then a whole number of quarter waves long,
 * VF = 4·ℓ·f/(n·c). An open line dips at odd numbers, a shorted one at even ones.
 *
 * @throws InputError where number and far end do not fit, or more than 1 comes out
 * @example velocityFactor({ value: 10, doubt: 0 }, { value: 4.95e6, doubt: 0 }, 1, 'open').value // 0.6605
 */
export function velocityFactor(
  lengthM: Uncertain,
  dipHz: Uncertain,
  quarterWaves: number,
  farEnd: 'open' | 'shorted',
): Propagated {
  const odd = quarterWaves % 2 === 1
  if (quarterWaves < 1 || !Number.isInteger(quarterWaves) || odd !== (farEnd === 'open'))
    throw new InputError(
      farEnd === 'open'
        ? 'An open line dips where it is 1, 3, 5 … quarter waves long.'
        : 'A shorted line dips where it is 2, 4, 6 … quarter waves long.',
      ['quarterWaves'],
    )
  const factor = propagate(
    { length: lengthM, 'frequency of the dip': dipHz },
    (v) => (4 * v.length * v['frequency of the dip']) / (quarterWaves * SPEED_OF_LIGHT),
  )
  if (factor.low > 1)
    throw new InputError(
      `That gives a velocity factor of ${factor.value.toFixed(2)}, faster than light. Is it a later dip, or the length too long?`,
      ['dipHz'],
    )
  return factor
}

/**
 * How long a line is for the wave: degrees and wavelengths at a frequency.
 *
 * @example electricalLength(10, 0.66, 10e6) // { waves: 0.5054, degrees: 181.9 }
 */
export function electricalLength(lengthM: number, factor: number, frequencyHz: number) {
  const waves = (lengthM * frequencyHz) / (factor * SPEED_OF_LIGHT)
  return { waves, degrees: 360 * waves }
}

/**
 * Distance to an open or a short, m: it makes one dip every half wave, so d = VF·c/(2·Δf).
 *
 * @param spacingHz between two dips next to each other
 * @example distanceToFault({ value: 0.66, doubt: 0 }, { value: 5e6, doubt: 0 }).value // 19.79
 */
export function distanceToFault(factor: Uncertain, spacingHz: Uncertain): Propagated {
  if (!(spacingHz.value > 0))
    throw new InputError('The second dip must lie above the first.', ['secondHz'])
  return propagate({ 'velocity factor': factor, 'spacing of the dips': spacingHz }, (v) =>
    v['spacing of the dips'] > 0
      ? (v['velocity factor'] * SPEED_OF_LIGHT) / (2 * v['spacing of the dips'])
      : NaN,
  )
}

/**
 * Frequency of the first dip that a line of known length should show, Hz.
 *
 * @example firstDipHz(10, 0.66, 'open') // 4947000
 */
export const firstDipHz = (lengthM: number, factor: number, farEnd: 'open' | 'shorted'): number =>
  (factor * SPEED_OF_LIGHT * (farEnd === 'open' ? 1 : 2)) / (4 * lengthM)
