/** The one reader of table headings: what unit a column is in. */
import { conversionOf, type Dimension, dimensionOfUnit } from '../units/dimensions.ts'

/** What a heading says of its unit; `foreign` is a unit that such a column cannot be in. */
export interface HeadingUnit {
  unit: string | null
  foreign: string | null
}

/**
 * The unit of a column of some dimension: in brackets (`freq (kHz)`, `forward [dBm]`), or as the last
 * word (`forward W`, `f/MHz`, `MHz`).
 *
 * @example headingUnit('Frequency (MHz)', 'frequency') // { unit: 'MHz', foreign: null }
 */
export function headingUnit(heading: string, dimension: Dimension): HeadingUnit {
  const bracket = /[([]\s*([^()[\]]{1,24}?)\s*[)\]]/.exec(heading)?.[1]
  if (bracket) {
    if (conversionOf(dimension, bracket)) return { unit: bracket, foreign: null }
    const known = dimensionOfUnit(bracket) !== 'plain' || /^(%|dB\w*|deg|°|rad)$/.test(bracket)
    return { unit: null, foreign: known ? bracket : null }
  }
  const words = heading.trim().split(/[\s,;_/]+/)
  const last = words.at(-1) ?? ''
  // A lone letter is a unit only behind a name: “R” is no unit, “forward W” has one.
  const unit = (words.length > 1 || last.length > 1) && conversionOf(dimension, last) ? last : null
  return { unit: unit || null, foreign: null }
}

/** Per what length a loss is stated, by what it is called. */
export const lossLengths = {
  '1 m': 1,
  '10 m': 10,
  '100 m': 100,
  '1 km': 1000,
  '1 ft': 0.3048,
  '10 ft': 3.048,
  '100 ft': 30.48,
  '1000 ft': 304.8,
} as const
export type LossPer = keyof typeof lossLengths

/**
 * Per what length a heading states a loss: `dB/100 m`, `dB per 100ft`, `loss in dB/m`, `[dB/km]`. Null where
 * it says nothing of it.
 *
 * @returns `foreign` where it names a length that is not known here
 */
export function headingLossPer(heading: string): { per: LossPer | null; foreign: string | null } {
  const match =
    /(?:db|loss|attenuation)\s*(?:\/|per|[([]per)\s*(\d[\d., ]{0,8})?\s*(km|m\b|met(?:re|er)s?|ft|feet|foot|[a-z]{1,12})/i.exec(
      heading,
    ) ?? /(\d{1,4})\s*(m|ft|feet|foot)\b/i.exec(heading)
  if (!match) return { per: null, foreign: null }
  const count = match[1] === undefined ? 1 : Number(match[1].replace(/[ ,.]/g, ''))
  const name = match[2]!.toLowerCase()
  const unit = name.startsWith('f')
    ? 'ft'
    : name === 'km'
      ? 'km'
      : /^m(et|$)/.test(name)
        ? 'm'
        : null
  const key = `${count} ${unit}`
  return Object.hasOwn(lossLengths, key)
    ? { per: key as LossPer, foreign: null }
    : { per: null, foreign: match[0] }
}
