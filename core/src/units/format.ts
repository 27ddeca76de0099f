/** The one number formatter: figures with their unit, and no more digits than they deserve. */
import type { Range } from '../statistics/quantile.ts'
import { wattsToDbm } from './decibel.ts'

/** Between a figure and its unit: a space that does not break. */
const SPACE = '\u00a0'

/**
 * `value` with so many decimals, a true minus sign, ∞ and – for what is not a number.
 *
 * @example decimals(1.25, 1) // '1.3'
 */
export function decimals(value: number, places: number): string {
  if (Number.isNaN(value)) return '–'
  if (!Number.isFinite(value)) return value > 0 ? '∞' : '−∞'
  const text = Math.abs(value).toFixed(places)
  return value < 0 && Number(text) !== 0 ? `−${text}` : text
}

/**
 * `value` to so many significant digits, without an exponent and without idle zeros in front.
 *
 * @example significant(1234.5, 3) // '1230'
 */
export function significant(value: number, digits: number): string {
  if (!Number.isFinite(value) || value === 0) return decimals(value, 0)
  const rounded = Number(value.toPrecision(digits))
  const exponent = Math.floor(Math.log10(Math.abs(rounded)))
  return decimals(rounded, Math.min(Math.max(0, digits - 1 - exponent), 100))
}

/** A figure in its parts, so that an interface can set number and unit apart. */
export interface Figure {
  number: string
  unit: string
}

/** A number and its unit with a space that does not break. */
const figureText = ({ number, unit }: Figure): string =>
  unit ? `${number}${SPACE}${unit}` : number

export type PowerUnit = 'W' | 'dBm'
export type LengthUnit = 'm' | 'ft'

const PREFIXES: readonly (readonly [size: number, prefix: string])[] = [
  [1e9, 'G'],
  [1e6, 'M'],
  [1e3, 'k'],
  [1, ''],
  [1e-3, 'm'],
  [1e-6, 'µ'],
  [1e-9, 'n'],
  [1e-12, 'p'],
]

/** So many significant digits with the prefix that leaves 1 to 999 before the point, from those named. */
function prefixed(value: number, digits: number, unit: string, prefixes: string): Figure {
  const size = Math.abs(value)
  if (size === 0 || !Number.isFinite(value)) return { number: decimals(value, 0), unit }
  const usable = PREFIXES.filter(([, prefix]) => prefix === '' || prefixes.includes(prefix))
  // 999.7 rounds to 1000 and belongs to the next prefix already.
  const [scale, prefix] =
    usable.find(([step]) => Number((size / step).toPrecision(digits)) >= 1) ?? usable.at(-1)!
  return { number: significant(value / scale, digits), unit: `${prefix}${unit}` }
}

/**
 * Watts as people say them: 1.25 kW, 73 W, 1.3 W, 0.24 W, 8.1 mW; or dBm.
 *
 * @example powerFigure(0.0123) // { number: '12', unit: 'mW' }
 */
export function powerFigure(watts: number, unit: PowerUnit = 'W'): Figure {
  const size = Math.abs(watts)
  // Below the noise of any receiver there is nothing, and nothing has no level.
  if (size < 0.5e-15)
    return unit === 'dBm' ? { number: 'none', unit: '' } : { number: '0', unit: 'W' }
  if (unit === 'dBm') return { number: decimals(wattsToDbm(watts), 1), unit: 'dBm' }
  if (size >= 999.5) return prefixed(watts, 3, 'W', 'kMG')
  if (size >= 9.95) return { number: decimals(watts, 0), unit: 'W' }
  if (size >= 0.995) return { number: decimals(watts, 1), unit: 'W' }
  if (size >= 0.0995) return { number: decimals(watts, 2), unit: 'W' }
  return prefixed(watts, 2, 'W', 'mµnp')
}

/**
 * A power (W) in the unit asked for.
 *
 * @example formatPower(82.31) // '82 W'
 */
export const formatPower = (watts: number, unit: PowerUnit = 'W'): string =>
  figureText(powerFigure(watts, unit))

/**
 * A power rounded down to what `formatPower` shows of it: a setting that must not be passed.
 *
 * @example floorPower(82.97) // 82
 */
export function floorPower(watts: number): number {
  const shown = (w: number) => Math.floor(Math.log10(w) + 1e-12)
  if (!(watts > 0) || !Number.isFinite(watts)) return watts
  const places = watts >= 1000 ? 2 : watts >= 10 ? shown(watts) : 1
  const step = 10 ** (shown(watts) - places)
  return Number((Math.floor(watts / step + 1e-9) * step).toPrecision(6))
}

/**
 * Loss or gain: two decimals under 1 dB, one above.
 *
 * @example dbNumber(0.842) // '0.84'
 */
export const dbNumber = (db: number): string => decimals(db, Math.abs(db) < 0.995 ? 2 : 1)

/**
 * A difference in decibels with its unit.
 *
 * @example formatDb(0.842) // '0.84 dB'
 */
export const formatDb = (db: number): string => `${dbNumber(db)}${SPACE}dB`

/**
 * 1.62, 12.4, 54, ∞.
 *
 * @example formatSwr(1.523) // '1.52'
 */
export const formatSwr = (swr: number): string =>
  swr >= 99.5 ? (swr > 9999 ? '∞' : decimals(swr, 0)) : decimals(swr, swr < 9.995 ? 2 : 1)

/**
 * A frequency (Hz) with as many decimals as it needs, at least three of a MHz or GHz and one of a kHz.
 *
 * @example formatFrequency(8_294_000) // '8.294 MHz'
 */
export function formatFrequency(hz: number): string {
  if (!Number.isFinite(hz)) return '–'
  const [size, unit] = hz >= 1e9 ? [1e9, 'GHz'] : hz >= 1e6 ? [1e6, 'MHz'] : [1e3, 'kHz']
  const trimmed = (hz / size)
    .toFixed(6)
    .replace(/0{1,5}$/, '')
    .replace(/\.$/, '')
  const [whole = '', fraction = ''] = trimmed.split('.')
  return `${whole}.${fraction.padEnd(unit === 'kHz' ? 1 : 3, '0')}${SPACE}${unit}`
}

const METRES_PER_FOOT = 0.3048

/**
 * 46 m, 1.2 m, 0.35 m; or feet (0.3048 m exactly).
 *
 * @example lengthFigure(10, 'ft') // { number: '32.8', unit: 'ft' }
 */
export function lengthFigure(metres: number, unit: LengthUnit = 'm'): Figure {
  const value = unit === 'ft' ? metres / METRES_PER_FOOT : metres
  const size = Math.abs(value)
  const number =
    size >= 1 ? decimals(value, size >= 100 ? 0 : 1) : size === 0 ? '0' : significant(value, 2)
  return { number: number.replace(/\.0+$/, '').replace(/(\.\d*?)0+$/, '$1'), unit }
}

/**
 * A length (m) in metres or feet.
 *
 * @example formatLength(38) // '38 m'
 */
export const formatLength = (metres: number, unit: LengthUnit = 'm'): string =>
  figureText(lengthFigure(metres, unit))

/**
 * 67 − j41 Ω.
 *
 * @example formatImpedance({ re: 31.2, im: -14.7 }) // '31 − j15 Ω'
 */
export function formatImpedance({ re, im }: { re: number; im: number }): string {
  if (!Number.isFinite(re) || Math.abs(re) > 1e6) return 'open circuit'
  const digits = Math.hypot(re, im) < 10 ? 1 : 0
  return `${decimals(re, digits)} ${im < 0 ? '−' : '+'} j${decimals(Math.abs(im), digits)}${SPACE}Ω`
}

/**
 * A voltage (V) with three significant digits and a prefix.
 *
 * @example formatVolt(70.71) // '70.7 V'
 */
export const formatVolt = (volt: number): string => figureText(prefixed(volt, 3, 'V', 'mµkM'))
/**
 * A current (A) with three significant digits and a prefix.
 *
 * @example formatAmpere(1.414) // '1.41 A'
 */
export const formatAmpere = (ampere: number): string => figureText(prefixed(ampere, 3, 'A', 'mµk'))
/**
 * A share (1 is everything) as a percentage.
 *
 * @example formatPercent(0.8214) // '82 %'
 */
export const formatPercent = (fraction: number): string => {
  const percent = fraction * 100
  return `${decimals(percent, Math.abs(percent) < 9.95 ? 1 : 0)}${SPACE}%`
}

/**
 * 3.4 µH, 120 nH.
 *
 * @example formatInductance(2.2e-6) // '2.20 µH'
 */
export const formatInductance = (henry: number): string =>
  henry === 0 ? `0${SPACE}µH` : figureText(prefixed(henry, 3, 'H', 'mµnp'))

/**
 * 86 pF, 1.2 nF.
 *
 * @example formatCapacitance(120e-12) // '120 pF'
 */
export const formatCapacitance = (farad: number): string =>
  farad === 0 ? `0${SPACE}pF` : figureText(prefixed(farad, 3, 'F', 'mµnp'))

/**
 * A value, or the two ends of its range where they read differently.
 *
 * @example rangeText(2, { low: 1.5, high: 2.5 }, formatDb) // '1.5 to 2.5 dB'
 */
export function rangeText(
  value: number,
  range: Range | undefined,
  format: (value: number) => string,
): string {
  if (!range) return format(value)
  const low = format(range.low)
  const high = format(range.high)
  if (low === high) return low
  const [lowNumber, lowUnit] = low.split(SPACE)
  return lowUnit !== undefined && high.endsWith(`${SPACE}${lowUnit}`)
    ? `${lowNumber} to ${high}`
    : `${low} to ${high}`
}
