/** The one reader of typed numbers: which figure a text is, or which two it may be. */

/**
 * What a text says. `either` is a text such as `1,500`, whose comma (or point) may be a decimal sign
 * or may group thousands: nobody but the writer knows.
 */
export type NumberReading =
  | { kind: 'one'; value: number }
  | { kind: 'either'; sign: '.' | ','; decimal: number; grouped: number }

/** Longer than any figure that a person means, and short enough to be read at once. */
const MOST_CHARACTERS = 64

const SHAPE = /^([+-]?)([\d.,\s]+)(?:e([+-]?\d{1,3}))?$/i
const SPACED = /^\d{1,3}(?:\s\d{3})+(?:[.,]\d+)?$/
const DECIMAL = /^(?:\d+[.,]?\d*|[.,]\d+)$/
const GROUPS = { ',': /^\d{1,3}(?:,\d{3})+(?:\.\d+)?$/, '.': /^\d{1,3}(?:\.\d{3})+(?:,\d+)?$/ }
const MAYBE_GROUPED = /^[1-9]\d{0,2}[.,]\d{3}$/

/**
 * Reads a number: a decimal point or comma; thousands grouped in threes by spaces, or by the other
 * sign (`1,234.5`, `1.234,5`, `1,234,567`); an exponent where nothing is grouped (`2e3`). Linear in
 * the text's length.
 *
 * @param text trimmed, with an ASCII minus
 * @returns null where it is no number, or too large to be finite
 * @example readNumber('1,500') // { kind: 'either', sign: ',', decimal: 1.5, grouped: 1500 }
 */
export function readNumber(text: string): NumberReading | null {
  if (text.length > MOST_CHARACTERS) return null
  const match = SHAPE.exec(text)
  if (!match) return null
  const [, minus, body = '', exponent] = match
  const signed = (digits: string) =>
    (minus === '-' ? -1 : 1) * Number(exponent === undefined ? digits : `${digits}e${exponent}`)
  const one = (digits: string): NumberReading | null => {
    const value = signed(digits)
    return Number.isFinite(value) ? { kind: 'one', value } : null
  }
  const decimal = body.replace(',', '.')
  if (exponent === undefined && MAYBE_GROUPED.test(body))
    return {
      kind: 'either',
      sign: body.includes(',') ? ',' : '.',
      decimal: signed(decimal),
      grouped: signed(body.replace(/[.,]/, '')),
    }
  if (DECIMAL.test(body)) return one(decimal)
  if (exponent !== undefined) return null
  if (SPACED.test(body)) return one(body.replace(/\s/g, '').replace(',', '.'))
  if (GROUPS[','].test(body)) return one(body.replace(/,/g, ''))
  if (GROUPS['.'].test(body)) return one(body.replace(/\./g, '').replace(',', '.'))
  return null
}
