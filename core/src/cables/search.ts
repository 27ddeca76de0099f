/** Finding a cable by what people call it: its size, its marking, its trade size in inches. */
import type { CableClass } from './cableClass.ts'

/**
 * Corrugated cable is sold by the size of its outer conductor in inches, which is less than its jacket; extra flexible
 * ones are thinner at the same size.
 */
const TRADE_SIZES: Readonly<Record<string, string>> = {
  'corrugated-10': '3/8',
  'superflex-13': '1/2',
  'corrugated-16': '1/2',
  'corrugated-28': '7/8',
}

/** The trade size of a class; undefined where it has none. */
export const tradeSizeOf = (id: string): string | undefined => TRADE_SIZES[id]

const FRACTIONS: Readonly<Record<string, string>> = {
  '¼': '1/4',
  '½': '1/2',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
}

/** Letters and digits alone: RG-58C/U and rg58 c/u are one. */
const squashed = (text: string): string => text.replace(/[^\p{L}\p{N}]/gu, '')

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[¼½⅜⅝⅞]/g, (sign) => ` ${FRACTIONS[sign]!} `)
    .replace(/(?<=\d)\s*(["”″]|inch(es)?\b|in\b)/g, ' inch')

/** What the words of a search may begin with. */
function wordsOf(texts: readonly (string | undefined)[]): string[] {
  return texts.flatMap((text) => {
    if (!text) return []
    // RG-316/U is also found as 316/U.
    const words = plain(text)
      .split(/[\s-]+/)
      .concat(plain(text).split(/\s+/))
    return [...words, ...words.map(squashed), ...plain(text).split(/[^\p{L}\p{N}]+/u)]
  })
}

/** What is known of a cable beside its figures. */
export interface Findable {
  name: string
  z0Ohm: number
  sheet?: Pick<CableClass, 'id' | 'dielectric' | 'shield' | 'jacketMarkings'> | undefined
}

/**
 * Whether every word of a search begins a word of the cable's name, construction, marking or trade size.
 *
 * @example findsCable({ name: '5 mm solid PE', z0Ohm: 50 }, '5 mm') // true
 */
export function findsCable({ name, z0Ohm, sheet }: Findable, query: string): boolean {
  const size = sheet && tradeSizeOf(sheet.id)
  const words = wordsOf([
    name,
    `${z0Ohm} Ω ohm`,
    sheet?.dielectric,
    sheet?.shield,
    size && `${size} inch`,
    ...(sheet?.jacketMarkings ?? []),
  ])
  return plain(query)
    .split(/\s+/)
    .filter(Boolean)
    .every((word) => words.some((own) => own.startsWith(word) || own === squashed(word)))
}
