/** What a table of readings calls chains, places and instruments, found again in a station. */
import type { ChainDocument } from '../chain.ts'
import { type Instrument, placesOf } from '../places.ts'

/** A chain that readings may go to. */
export interface ChainAtHand {
  id: string
  document: ChainDocument
}

/** In the place of what was chosen for a name: its readings stay out, or are taken without an instrument. */
export const LEAVE_OUT = 'leave out'
const NO_INSTRUMENT = 'none'

/** A name that this station does not know, and what could be meant by it. */
export interface UnknownName {
  /** What a choice is kept under. */
  key: string
  /** Why it is not known. */
  message: string
  options: { value: string; label: string }[]
  /** The line where it is met first, and how many have it. */
  line: number
  count: number
}

/** A name has to be chosen for before its line can be read. */
export class NameUnknown extends Error {
  readonly key: string
  readonly options: UnknownName['options']
  constructor(key: string, message: string, options: UnknownName['options']) {
    super(message)
    this.key = key
    this.options = options
  }
}

/** The operator does not want this line. */
export class LeftOut extends Error {}

/** What was chosen for names that are not known, by their keys. */
export type Choices = Readonly<Record<string, string>>

function chosenFor(choices: Choices, key: string): string | undefined {
  const chosen = Object.hasOwn(choices, key) ? choices[key] : undefined
  if (chosen === LEAVE_OUT) throw new LeftOut()
  return chosen || undefined
}

const known = (names: readonly string[]): string => `Known are ${names.join(', ')}.`

/** @throws NameUnknown, LeftOut */
export function chainNamed(
  text: string,
  id: string,
  chains: readonly ChainAtHand[],
  choices: Choices,
): ChainAtHand | undefined {
  if (text === '' && id === '') return undefined
  const found =
    chains.find((chain) => chain.id === id || chain.id === text) ??
    chains.find(({ document: { name } }) => name.toLowerCase() === text.toLowerCase())
  if (found) return found
  const key = `chain ${text || id}`
  const chosen = chosenFor(choices, key)
  const meant = chains.find((chain) => chain.id === chosen)
  if (meant) return meant
  throw new NameUnknown(
    key,
    `“${text || id}” is no chain of this station. ${known(chains.map(({ document }) => document.name))}`,
    chains.map(({ id: value, document }) => ({ value, label: document.name })),
  )
}

/** @throws NameUnknown, LeftOut */
export function instrumentNamed(
  text: string,
  id: string,
  instruments: readonly Instrument[],
  choices: Choices,
): Instrument | undefined {
  if (text === '' && id === '') return undefined
  const found =
    instruments.find((one) => one.id === id || one.id === text) ??
    instruments.find(({ document: { name } }) => name.toLowerCase() === text.toLowerCase())
  if (found) return found
  // A meter that was deleted has no identity here, and a name that nobody wrote is none.
  const name = text || id
  const key = `instrument ${name}`
  const chosen = chosenFor(choices, key)
  if (chosen === NO_INSTRUMENT) return undefined
  const meant = instruments.find((one) => one.id === chosen)
  if (meant) return meant
  throw new NameUnknown(
    key,
    `“${name}” is no instrument of this station; it can be added in Gear.`,
    [
      ...instruments.map(({ id: value, document }) => ({ value, label: document.name })),
      { value: NO_INSTRUMENT, label: 'without an instrument' },
    ],
  )
}

/** The stage that a place is in front of, or `load`. @throws NameUnknown, LeftOut */
export function placeNamed(
  text: string,
  id: string,
  { id: chainId, document }: ChainAtHand,
  choices: Choices,
): string {
  const places = placesOf(document)
  if (id !== '' && places.some(({ before }) => before === id)) return id
  const asked = (text || id).toLowerCase()
  if (asked === '') return places[0]!.before
  const exact = places.find(({ before, plane, name }) =>
    [
      before.toLowerCase(),
      name.toLowerCase(),
      // As logs named it before.
      name.toLowerCase().replace(/^input of /, 'before '),
      `plane ${plane}`,
      String(plane),
    ].includes(asked),
  )
  if (exact) return exact.before
  if (/^(the )?(antenna|load|feed ?point)$/.test(asked)) return places.at(-1)!.before
  if (/^(the )?(radio|transmitter|tx)$/.test(asked)) return places[0]!.before
  // Whole words of a name, and only where they name one place.
  const words = asked.split(/\W+/).filter(Boolean)
  const found = places.filter(({ name }) => {
    const own = name.toLowerCase().split(/\W+/)
    return words.length > 0 && words.every((word) => own.includes(word))
  })
  if (found.length === 1) return found[0]!.before
  const key = `place ${chainId} ${asked}`
  const chosen = chosenFor(choices, key)
  if (chosen !== undefined && places.some(({ before }) => before === chosen)) return chosen
  const names = places.map(({ name }) => name)
  throw new NameUnknown(
    key,
    found.length > 1
      ? `“${text}” may be ${found.map(({ name }) => name).join(' or ')}: write one of them in full.`
      : `“${text || id}” is no place on ${document.name}. ${known(names)}`,
    places.map(({ before, name }) => ({ value: before, label: name })),
  )
}
