/** The one reader of typed quantities: `40 ft`, `7,1 MHz`, `1.5k`, `20 dBm`. */
import { dbmToWatts } from './decibel.ts'

export type Dimension = 'length' | 'frequency' | 'power' | 'decibel' | 'impedance' | 'plain'

interface UnitTable {
  /** What the number is called in an error, and what may follow it. */
  noun: string
  example: string
  /** Spelling in lower case → its value in the dimension's own unit (m, Hz, W, dB, Ω, 1). */
  units: Record<string, (value: number) => number>
}

const times = (factor: number) => (value: number) => value * factor
/** The lone suffixes k and M of `1.5k`; M only where milli could not be meant. */
const kilo = { k: times(1e3) }

const tables: Record<Dimension, UnitTable> = {
  length: {
    noun: 'length',
    example: '12.5 m or 40 ft',
    units: {
      m: times(1),
      cm: times(0.01),
      mm: times(0.001),
      ft: times(0.3048),
      feet: times(0.3048),
      foot: times(0.3048),
      "'": times(0.3048),
      in: times(0.0254),
      '"': times(0.0254),
    },
  },
  frequency: {
    noun: 'frequency',
    example: '7.1 MHz or 7100 kHz',
    units: {
      hz: times(1),
      khz: times(1e3),
      mhz: times(1e6),
      ghz: times(1e9),
      ...kilo,
      m: times(1e6),
    },
  },
  power: {
    noun: 'power',
    example: '125 W, 1.5k or 20 dBm',
    units: {
      w: times(1),
      mw: times(1e-3),
      kw: times(1e3),
      ...kilo,
      dbm: dbmToWatts,
      dbw: (v) => dbmToWatts(v + 30),
    },
  },
  decibel: { noun: 'figure in dB', example: '0.15 dB', units: { db: times(1) } },
  impedance: {
    noun: 'impedance',
    example: '50 Ω',
    units: {
      ω: times(1),
      ohm: times(1),
      ohms: times(1),
      kω: times(1e3),
      kohm: times(1e3),
      ...kilo,
    },
  },
  plain: { noun: 'number', example: '1.5', units: { ...kilo } },
}

export interface Bounds {
  /** Lowest and highest allowed, in the dimension's own unit. */
  min?: number | undefined
  max?: number | undefined
  /** Writes a bound for the error. */
  show?: ((value: number) => string) | undefined
}

export type ParsedQuantity = { ok: true; value: number } | { ok: false; message: string }

const SHAPE = /^([+-]?(?:\d[\d.,\s]*|[.,]\d+)(?:e[+-]?\d+)?)\s*([^\d\s.,+-].*)?$/i

/**
 * Reads a typed quantity into the dimension's own unit: m, Hz, W, dB, Ω or 1. A comma is a decimal
 * sign; where both comma and point stand, the last of them is.
 *
 * @param defaultUnit what a bare number is in, e.g. 'MHz'
 */
export function parseQuantity(
  text: string,
  dimension: Dimension,
  defaultUnit = '',
  bounds: Bounds = {},
): ParsedQuantity {
  const table = tables[dimension]
  const fail = (message: string): ParsedQuantity => ({ ok: false, message })
  const clean = text.trim().replace(/−/g, '-')
  if (clean === '') return fail(`Type a ${table.noun}, such as ${table.example}.`)
  const match = SHAPE.exec(clean)
  const number = match ? readNumber(match[1]!) : NaN
  if (!match || Number.isNaN(number))
    return fail(`“${text.trim()}” is not a ${table.noun}. Try ${table.example}.`)
  const unit = (match[2] ?? defaultUnit).trim().toLowerCase()
  // A plain number may be in any unit its field names: %, mm, °C.
  const own = dimension === 'plain' && unit === defaultUnit.trim().toLowerCase()
  const convert = unit === '' || own ? times(1) : table.units[unit]
  if (!convert)
    return fail(
      `“${(match[2] ?? '').trim()}” is not a unit of ${table.noun}. Try ${table.example}.`,
    )
  const value = convert(number)
  const show = bounds.show ?? String
  if (bounds.min !== undefined && value < bounds.min)
    return fail(`The ${table.noun} must be ${show(bounds.min)} or more.`)
  if (bounds.max !== undefined && value > bounds.max)
    return fail(`The ${table.noun} must be ${show(bounds.max)} or less.`)
  return { ok: true, value }
}

function readNumber(text: string): number {
  const packed = text.replace(/\s/g, '')
  const comma = packed.lastIndexOf(',')
  const point = packed.lastIndexOf('.')
  if (comma < 0) return Number(packed)
  if (point < 0) return Number(packed.replace(',', '.'))
  return comma > point
    ? Number(packed.replace(/\./g, '').replace(',', '.'))
    : Number(packed.replace(/,/g, ''))
}
