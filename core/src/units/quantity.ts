/**
 * The one reader of typed quantities: `40 ft`, `40' 6"`, `7,1 MHz`, `1.5k`, `20 dBm`, `2.1:1`. The
 * grammar is written down in docs/number-entry.md.
 */
import { conversionOf, type Dimension, dimensions } from './dimensions.ts'
import { fieldText } from './fieldText.ts'
import { readNumber } from './number.ts'

export interface Bounds {
  /** Lowest and highest allowed, in the dimension's own unit. */
  min?: number | undefined
  max?: number | undefined
  /** Writes a bound for the error. */
  show?: ((value: number) => string) | undefined
}

/**
 * A figure in the dimension's own unit. `other` is what the text would be if its decimal point grouped
 * thousands, where that is allowed too. `choices` are two readings of which the writer must choose.
 */
export type ParsedQuantity =
  | { ok: true; value: number; other?: number }
  | { ok: false; message: string; choices?: [decimal: number, grouped: number] }

const SHAPE = /^([+-]?[\d.,][\d.,\s]*(?:e[+-]?\d+\s*)?)([^\d\s.,+-].*)?$/i
const FEET_INCHES = /^([\d.,\s]+)(?:'|ft\.?|foot|feet)\s*([\d.,\s]+)(?:"|''|in\.?|inch|inches)?$/i
const TO_ONE = /^(.*\d)\s*(?::|to)\s*1(?:[.,]0+)?$/i

/** Quotation marks and primes that stand for feet and inches, and every dash that means minus. */
const tidy = (text: string): string =>
  text.trim().replace(/^[−–]/, '-').replace(/[’′‘]/g, "'").replace(/[”″“]/g, '"')

/** SWR is spelt out: an S. */
const one = (noun: string): string => `${/^([aeio]|SWR)/.test(noun) ? 'an' : 'a'} ${noun}`

/**
 * Reads a typed quantity into the dimension's own unit: m, Hz, W, dB, Ω, V, A, H, F, s, °C or 1. The
 * result is finite.
 *
 * @param defaultUnit what a bare number is in, e.g. 'MHz'
 * @example parseQuantity('100 ft', 'length') // { ok: true, value: 30.48 }
 */
export function parseQuantity(
  text: string,
  dimension: Dimension,
  defaultUnit = '',
  bounds: Bounds = {},
): ParsedQuantity {
  const { noun, example } = dimensions[dimension]
  const fail = (message: string): ParsedQuantity => ({ ok: false, message })
  const clean = tidy(text)
  if (clean === '') return fail(`Type ${one(noun)}, such as ${example}.`)
  if (clean.length > 80) return fail(`This is too long for ${one(noun)}. Try ${example}.`)
  const show =
    bounds.show ??
    ((value: number) => `${fieldText(value)}\u00a0${dimensions[dimension].own}`.trim())
  const outside = (value: number): string | null =>
    bounds.min !== undefined && value < bounds.min
      ? `The ${noun} must be ${show(bounds.min)} or more.`
      : bounds.max !== undefined && value > bounds.max
        ? `The ${noun} must be ${show(bounds.max)} or less.`
        : null
  const judge = (value: number): ParsedQuantity => {
    if (!Number.isFinite(value)) return fail(`“${text.trim()}” is too large for ${one(noun)}.`)
    const wrong = outside(value)
    return wrong === null ? { ok: true, value } : fail(wrong)
  }

  if (dimension === 'length') {
    const metres = feetAndInches(clean)
    if (metres !== null) return judge(metres)
  }
  const toOne = dimension === 'swr' ? TO_ONE.exec(clean) : null
  const match = SHAPE.exec(toOne ? toOne[1]! : clean)
  const reading = match && readNumber(match[1]!.trim())
  if (!match || !reading) return fail(`“${text.trim()}” is not ${one(noun)}. Try ${example}.`)
  const spelling = (match[2] ?? defaultUnit).trim()
  const sameAsField = spelling.toLowerCase() === defaultUnit.trim().toLowerCase()
  const conversion =
    conversionOf(dimension, spelling) ??
    // A plain number may be in any unit its field names: %, dBi, ×.
    (sameAsField && dimension === 'plain' ? conversionOf('plain', '') : null)
  if (!conversion) return fail(`“${spelling}” is not a unit of ${noun}. Try ${example}.`)
  // 8.294 times a million is 8294000.000000001: a double carries fifteen digits whole.
  const own = (number: number) => Number(conversion.toOwn(number).toPrecision(15))
  if (reading.kind === 'one') return judge(own(reading.value))

  const decimal = own(reading.decimal)
  const grouped = own(reading.grouped)
  // Where only one of the two is allowed, the other cannot be meant.
  if (outside(grouped) !== null) return judge(decimal)
  if (outside(decimal) !== null) return judge(grouped)
  if (reading.sign === '.') return { ok: true, value: decimal, other: grouped }
  return {
    ok: false,
    message: `“${text.trim()}” may be ${show(decimal)} or ${show(grouped)}: choose one.`,
    choices: [decimal, grouped],
  }
}

function feetAndInches(text: string): number | null {
  const match = FEET_INCHES.exec(text)
  if (!match) return null
  const [feet, inches] = [match[1]!, match[2]!].map((part) => {
    const reading = readNumber(part.trim())
    return reading?.kind === 'one' ? reading.value : NaN
  })
  const metres = feet! * 0.3048 + inches! * 0.0254
  return Number.isFinite(metres) && inches! < 12 ? metres : null
}
