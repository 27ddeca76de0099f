/**
 * What a Touchstone file says, version 1 and 2, before it is made a sweep of one or two ports (IBIS
 * Open Forum, Touchstone File Format Specification).
 */
import { type Complex, complex } from '../complex.ts'
import { MOST_FIGURE, MOST_FILE_HZ, MOST_ROWS } from './bounds.ts'

/** What is wrong with a file and on which line (counted from 1). */
export class TouchstoneError extends Error {
  override readonly name = 'TouchstoneError'
  constructor(
    readonly problem: string,
    readonly line: number,
  ) {
    super(`Line ${line}: ${problem}`)
  }
}

export interface TouchstoneOptions {
  hzPerUnit: number
  parameter: 'S' | 'Z' | 'Y'
  pair: 'RI' | 'MA' | 'DB'
  referenceOhm: number
}

export interface TouchstoneRecords {
  options: TouchstoneOptions
  version2: boolean
  /** Two ports: true where the file gives 12 before 21. */
  order12first: boolean
  comments: string[]
  /** Strictly rising, Hz. */
  frequencyHz: number[]
  /** One row a frequency: 1 or 4 complex numbers in the file's own order. */
  rows: Complex[][]
  /** The line that each row stands on, counted from 1. */
  lines: number[]
}

const HZ_PER_UNIT: Record<string, number> = { HZ: 1, KHZ: 1e3, MHZ: 1e6, GHZ: 1e9 }

/** What the specification assumes where the option line is silent. */
const DEFAULTS: TouchstoneOptions = { hzPerUnit: 1e9, parameter: 'S', pair: 'MA', referenceOhm: 50 }

/** What version 2 says in square brackets. */
interface Header {
  version2: boolean
  /** Lines that are text between [Begin Information] and [End Information]. */
  informing: boolean
  ended: boolean
  frequencies: number | null
  order12first: boolean
  /** A keyword whose value stands on the next line. */
  awaiting: 'reference' | null
  /** Whether a [Reference] was read. */
  reference: boolean
}

const numberOfValues = { 1: 'two numbers', 2: 'eight numbers' } as const
const portsInWords = { 1: 'an antenna has one', 2: 'a stage has two' } as const

/**
 * Reads the option line, the keywords and the rows of numbers.
 *
 * @throws TouchstoneError with the line; nothing is half-read
 */
export function readRecords(text: string, ports: 1 | 2): TouchstoneRecords {
  let options: TouchstoneOptions | null = null
  let optionLine: string | null = null
  const header: Header = {
    version2: false,
    informing: false,
    ended: false,
    frequencies: null,
    order12first: false,
    awaiting: null,
    reference: false,
  }
  const comments: string[] = []
  const frequencyHz: number[] = []
  const rows: Complex[][] = []
  const lines: number[] = []
  /** Points that stood there twice with the same figures, and rows at 0 Hz. */
  let merged = 0
  let atZero = 0
  text.split(/\r\n|\n|\r/).forEach((raw, index) => {
    const line = index + 1
    const mark = raw.indexOf('!')
    if (mark >= 0) {
      const comment = raw.slice(mark + 1).trim()
      if (comment) comments.push(comment)
    }
    const content = (mark >= 0 ? raw.slice(0, mark) : raw).trim()
    if (content === '' || header.ended) return
    if (content.startsWith('[')) {
      const reference = readKeyword(content, header, ports, line)
      if (reference !== null) header.reference = true
      if (reference !== null) options = { ...(options ?? DEFAULTS), referenceOhm: reference }
      return
    }
    if (header.informing) return
    if (header.awaiting === 'reference') {
      header.awaiting = null
      header.reference = true
      options = { ...(options ?? DEFAULTS), referenceOhm: readReference(content, line) }
      return
    }
    if (content.startsWith('#')) {
      if (frequencyHz.length > 0)
        throw new TouchstoneError(
          'this option line stands behind data, which were read by another one or by the defaults; it must come before them.',
          line,
        )
      if (optionLine !== null && optionLine !== content)
        throw new TouchstoneError(
          `a second option line says something else than the first, “${optionLine}”.`,
          line,
        )
      optionLine = content
      const { referenceOhm } = options ?? DEFAULTS
      options = readOptions(content.slice(1), line)
      // A [Reference] of version 2 goes before what the option line says.
      if (header.reference) options.referenceOhm = referenceOhm
      return
    }
    options ??= DEFAULTS
    const previous = frequencyHz[frequencyHz.length - 1] ?? 0
    const words = content.split(/\s+/)
    // Version 1 puts noise data behind the network's: five numbers, the frequency starting anew.
    if (ports === 2 && words.length === 5 && Number(words[0]) * options.hzPerUnit <= previous) {
      header.ended = true
      return
    }
    const [f, ...values] = readNumbers(words, ports, line)
    const hz = f! * options.hzPerUnit
    if (hz === 0 && frequencyHz.length === 0) {
      // Simulators begin there: no wave has that frequency, and no figure of it says anything of one that has.
      atZero++
      return
    }
    const { pair } = options
    const row = Array.from({ length: values.length / 2 }, (_, i) =>
      complexFrom(values[2 * i]!, values[2 * i + 1]!, pair),
    )
    if (hz === previous && sameFigures(row, rows.at(-1)!)) {
      merged++
      return
    }
    if (!(hz > previous)) {
      throw new TouchstoneError(
        frequencyHz.length === 0
          ? `the frequency must not be less than 0; this one is ${f}.`
          : `frequencies must rise; ${f} comes after ${previous / options.hzPerUnit}.`,
        line,
      )
    }
    if (hz > MOST_FILE_HZ)
      throw new TouchstoneError(
        `${f} is a frequency above 1000 GHz; check the unit in the option line.`,
        line,
      )
    if (frequencyHz.length >= MOST_ROWS)
      throw new TouchstoneError(`more than ${MOST_ROWS} rows; save it with fewer points.`, line)
    frequencyHz.push(hz)
    lines.push(line)
    rows.push(row)
  })
  if (frequencyHz.length === 0) {
    throw new TouchstoneError(
      `the file holds no data: expected lines of frequency and ${numberOfValues[ports]}.`,
      1,
    )
  }
  if (header.frequencies !== null && header.frequencies !== frequencyHz.length + merged + atZero) {
    throw new TouchstoneError(
      `the file promises ${header.frequencies} frequencies and holds ${frequencyHz.length}; it may be cut off.`,
      text.split(/\r\n|\n|\r/).length,
    )
  }
  if (atZero > 0) comments.push('the row at 0 Hz was set aside')
  if (merged > 0) comments.push(`${merged} identical ${merged === 1 ? 'point' : 'points'} merged`)
  const { version2, order12first } = header
  return {
    options: options ?? DEFAULTS,
    version2,
    order12first,
    comments,
    frequencyHz,
    rows,
    lines,
  }
}

const sameFigures = (a: readonly Complex[], b: readonly Complex[]): boolean =>
  a.length === b.length && a.every(({ re, im }, i) => re === b[i]!.re && im === b[i]!.im)

/** Notes a version 2 keyword; gives the reference where this one is it. */
function readKeyword(content: string, header: Header, ports: 1 | 2, line: number): number | null {
  const match = /^\[([^\]]*)\]\s*(.*)$/.exec(content)
  if (!match)
    throw new TouchstoneError(`“${content}” is a keyword without its closing bracket.`, line)
  const [, keyword = '', value = ''] = match
  switch (keyword.toLowerCase()) {
    case 'version':
      header.version2 = true
      return null
    case 'number of ports':
      if (Number(value) !== ports)
        throw new TouchstoneError(`this file has ${value} ports; ${portsInWords[ports]}.`, line)
      return null
    case 'two-port data order':
      header.order12first = value.trim() === '12_21'
      return null
    case 'matrix format':
      if (ports === 2 && value.trim().toLowerCase() !== 'full')
        throw new TouchstoneError(`a ${value} matrix is not understood; save it as “Full”.`, line)
      return null
    case 'number of frequencies':
      if (!/^\d{1,9}$/.test(value.trim()))
        throw new TouchstoneError(`“${value.slice(0, 40)}” is no number of frequencies.`, line)
      header.frequencies = Number(value)
      return null
    case 'reference':
      if (value !== '') return readReference(value, line)
      header.awaiting = 'reference'
      return null
    case 'begin information':
      header.informing = true
      return null
    case 'end information':
      header.informing = false
      return null
    case 'noise data':
    case 'end':
      header.ended = true
      return null
    default:
      return null
  }
}

/** Of a measurement, Ω. */
const isReference = (ohm: number): boolean => ohm >= 1e-3 && ohm <= 1e6

function readReference(text: string, line: number): number {
  const all = text.trim().split(/\s+/).map(Number)
  if (!all.every(isReference))
    throw new TouchstoneError(`“${text}” is no reference resistance; write for example “50”.`, line)
  if (all.some((ohm) => ohm !== all[0]))
    throw new TouchstoneError(
      `the ports have different references (${text}); save the file on one.`,
      line,
    )
  return all[0]!
}

function readOptions(text: string, line: number): TouchstoneOptions {
  const options = { ...DEFAULTS }
  const words = text.trim().toUpperCase().split(/\s+/).filter(Boolean)
  for (let i = 0; i < words.length; i++) {
    const word = words[i]!
    if (word in HZ_PER_UNIT) options.hzPerUnit = HZ_PER_UNIT[word]!
    else if (word === 'S' || word === 'Z' || word === 'Y') options.parameter = word
    else if (word === 'RI' || word === 'MA' || word === 'DB') options.pair = word
    else if (word === 'R') {
      const ohm = Number(words[++i])
      if (!isReference(ohm)) {
        throw new TouchstoneError(
          `“R ${words[i] ?? ''}” is no reference resistance; write for example “R 50”.`,
          line,
        )
      }
      options.referenceOhm = ohm
    } else {
      throw new TouchstoneError(
        `“${word}” is not known in an option line; expected for example “# MHz S RI R 50”.`,
        line,
      )
    }
  }
  return options
}

function readNumbers(words: string[], ports: 1 | 2, line: number): number[] {
  const expected = ports === 1 ? 3 : 9
  if (words.length !== expected) {
    throw new TouchstoneError(
      `expected a frequency and ${numberOfValues[ports]}, found ${words.length} ` +
        `${words.length === 1 ? 'value' : 'values'}` +
        (ports === 1 && words.length > 3
          ? '; is this a file of two or more ports?'
          : ports === 2 && words.length === 3
            ? '; this looks like a one-port file, which is an antenna and not a stage.'
            : '.'),
      line,
    )
  }
  const bad = words.find((word) => word.length > 40 || !Number.isFinite(Number(word)))
  if (bad !== undefined) throw new TouchstoneError(`“${bad.slice(0, 40)}” is not a number.`, line)
  const beyond = words.find((word, i) => i > 0 && Math.abs(Number(word)) > MOST_FIGURE)
  if (beyond !== undefined)
    throw new TouchstoneError(`${beyond.slice(0, 40)} is more than anything measures.`, line)
  return words.map(Number)
}

/** More dB than any reflection or gain has: what is above is refused as no passive part. */
const MOST_DB = 300

function complexFrom(a: number, b: number, pair: TouchstoneOptions['pair']): Complex {
  if (pair === 'RI') return complex(a, b)
  const size = pair === 'DB' ? 10 ** (Math.min(a, MOST_DB) / 20) : a
  const angle = (b * Math.PI) / 180
  return complex(size * Math.cos(angle), size * Math.sin(angle))
}

/** What Z or Y is divided by: version 1 states them as multiples already, version 2 in Ω and S. */
export const unitOf = ({ options, version2 }: TouchstoneRecords): number =>
  !version2 || options.parameter === 'S'
    ? 1
    : options.parameter === 'Z'
      ? options.referenceOhm
      : 1 / options.referenceOhm
