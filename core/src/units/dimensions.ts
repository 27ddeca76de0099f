/** The quantities that are typed, and every spelling of their units. */
import { dbmToWatts, wattsToDbm } from './decibel.ts'

export type Dimension =
  | 'length'
  | 'frequency'
  | 'power'
  | 'decibel'
  | 'impedance'
  | 'voltage'
  | 'current'
  | 'inductance'
  | 'capacitance'
  | 'time'
  | 'temperature'
  | 'swr'
  | 'plain'

/** How a number in one unit becomes one in the dimension's own unit, and back. */
export interface Conversion {
  toOwn: (value: number) => number
  fromOwn: (value: number) => number
}

interface DimensionFacts {
  /** What the number is called in an error, and what may be typed. */
  noun: string
  example: string
  /** The dimension's own unit first: what a figure is kept in. */
  own: string
  /** Spellings of units that take no prefix, in lower case, with their size in the own unit. */
  units: Readonly<Record<string, Conversion>>
  /** Spellings in lower case of units that take the prefixes below, with their size in the own unit. */
  prefixed: Readonly<Record<string, number>>
  /** What may stand before a unit, or alone as in `1.5k`; m and M differ, k and K do not. */
  prefixes: Readonly<Record<string, number>>
}

const times = (factor: number): Conversion => ({
  toOwn: (value) => value * factor,
  fromOwn: (value) => value / factor,
})
const AS_IT_IS = times(1)

const p = 1e-12
const n = 1e-9
const micro = { u: 1e-6, µ: 1e-6, μ: 1e-6 }
const k = { k: 1e3, K: 1e3 }
const FOOT = 0.3048
const INCH = 0.0254

/** Every dimension that can be typed: its units, which are read as what, and what is asked about. */
export const dimensions: Readonly<Record<Dimension, DimensionFacts>> = {
  length: {
    noun: 'length',
    example: '12.5 m or 40 ft',
    own: 'm',
    units: {
      m: AS_IT_IS,
      metre: AS_IT_IS,
      metres: AS_IT_IS,
      ft: times(FOOT),
      foot: times(FOOT),
      feet: times(FOOT),
      "'": times(FOOT),
      in: times(INCH),
      inch: times(INCH),
      inches: times(INCH),
      '"': times(INCH),
      cm: times(0.01),
      mm: times(0.001),
      km: times(1000),
      µm: times(1e-6),
      um: times(1e-6),
    },
    prefixed: {},
    prefixes: {},
  },
  frequency: {
    noun: 'frequency',
    example: '7.1 MHz or 7100 kHz',
    own: 'Hz',
    units: {},
    prefixed: { hz: 1 },
    // Nobody means millihertz: "14 mhz" is a word typed in a hurry. A lone m may be metres.
    prefixes: { ...k, M: 1e6, mhz: 1e6, G: 1e9, g: 1e9 },
  },
  power: {
    noun: 'power',
    example: '125 W, 1.5k or 20 dBm',
    own: 'W',
    units: {
      dbm: { toOwn: dbmToWatts, fromOwn: wattsToDbm },
      dbw: { toOwn: (v) => dbmToWatts(v + 30), fromOwn: (w) => wattsToDbm(w) - 30 },
    },
    prefixed: { w: 1, watt: 1, watts: 1 },
    prefixes: { p, n, ...micro, m: 1e-3, ...k, M: 1e6 },
  },
  decibel: {
    noun: 'figure in dB',
    example: '0.15 dB',
    own: 'dB',
    units: { db: AS_IT_IS },
    prefixed: {},
    prefixes: {},
  },
  impedance: {
    noun: 'impedance',
    example: '50 Ω',
    own: 'Ω',
    units: {},
    // The Greek letter and the sign for ohm are two characters; both become ω in lower case.
    prefixed: { ω: 1, ohm: 1, ohms: 1 },
    prefixes: { m: 1e-3, ...k, M: 1e6 },
  },
  voltage: {
    noun: 'voltage',
    example: '500 V or 1.4 kV',
    own: 'V',
    units: {},
    prefixed: { v: 1, volt: 1, volts: 1 },
    prefixes: { ...micro, m: 1e-3, ...k, M: 1e6 },
  },
  current: {
    noun: 'current',
    example: '1.2 A or 300 mA',
    own: 'A',
    units: {},
    prefixed: { a: 1 },
    prefixes: { ...micro, m: 1e-3, ...k },
  },
  inductance: {
    noun: 'inductance',
    example: '3.4 µH or 120 nH',
    own: 'H',
    units: {},
    prefixed: { h: 1 },
    prefixes: { p, n, ...micro, m: 1e-3 },
  },
  capacitance: {
    noun: 'capacitance',
    example: '86 pF or 1.2 nF',
    own: 'F',
    units: {},
    prefixed: { f: 1 },
    prefixes: { p, n, ...micro, m: 1e-3 },
  },
  time: {
    noun: 'time',
    example: '90 s or 2 min',
    own: 's',
    units: {
      s: AS_IT_IS,
      sec: AS_IT_IS,
      ms: times(1e-3),
      min: times(60),
      mins: times(60),
      minute: times(60),
      minutes: times(60),
      h: times(3600),
      hours: times(3600),
    },
    prefixed: {},
    prefixes: {},
  },
  temperature: {
    noun: 'temperature',
    example: '20 °C',
    own: '°C',
    units: {
      '°c': AS_IT_IS,
      c: AS_IT_IS,
      '°f': { toOwn: (v) => ((v - 32) * 5) / 9, fromOwn: (c) => (c * 9) / 5 + 32 },
    },
    prefixed: {},
    prefixes: {},
  },
  swr: { noun: 'SWR', example: '1.5 or 2.1:1', own: '', units: {}, prefixed: {}, prefixes: {} },
  plain: { noun: 'number', example: '1.5', own: '', units: {}, prefixed: {}, prefixes: k },
}

const own = <T>(table: Readonly<Record<string, T>>, key: string): T | undefined =>
  Object.hasOwn(table, key) ? table[key] : undefined

/**
 * How a unit's spelling converts to the dimension's own unit; null where it is none of its units.
 * Prefixes are case-sensitive (mW is not MW), names of units are not.
 *
 * @example conversionOf('length', 'ft').toOwn(10) // 3.048
 */
export function conversionOf(dimension: Dimension, spelling: string): Conversion | null {
  const { units, prefixed, prefixes, own: ownUnit } = dimensions[dimension]
  const unit = spelling.normalize('NFC').replace(/\s+/g, '')
  if (unit === '' || unit === ownUnit) return AS_IT_IS
  const lower = unit.toLowerCase()
  const fixed = own(units, lower)
  if (fixed) return fixed
  const bare = own(prefixed, lower)
  if (bare !== undefined) return times(bare)
  const whole = own(prefixes, lower)
  // "mhz", spelled out among the prefixes; a lone prefix as in "1.5k", but not a lone m.
  if (whole !== undefined && lower.length > 1) return times(whole)
  const alone = own(prefixes, unit)
  if (alone !== undefined && unit !== 'm') return times(alone)
  const factor = own(prefixes, unit[0]!)
  const base = own(prefixed, lower.slice(1))
  return factor !== undefined && base !== undefined ? times(factor * base) : null
}

/**
 * The dimension that a field's unit belongs to; `plain` for %, ×, dBi and whatever takes no other.
 *
 * @example dimensionOfUnit('MHz') // 'frequency'
 */
export function dimensionOfUnit(unit: string): Dimension {
  if (unit === 'dB') return 'decibel'
  for (const dimension of Object.keys(dimensions) as Dimension[])
    if (dimension !== 'plain' && unit !== '' && conversionOf(dimension, unit)) return dimension
  return 'plain'
}
