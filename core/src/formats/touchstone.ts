/** Reads Touchstone one-port files, version 1 and 2 (IBIS Open Forum, Touchstone File Format Specification). */
import { type Complex, complex } from '../complex.ts'
import { reflectionOf, renormalise } from '../load/reflection.ts'

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

/** A one-port sweep on one reference; frequencies rise strictly. */
export interface OnePortSweep {
  referenceOhm: number
  frequencyHz: Float64Array
  re: Float64Array
  im: Float64Array
  /** Comment lines, without the exclamation mark. */
  comments: string[]
}

const HZ_PER_UNIT: Record<string, number> = { HZ: 1, KHZ: 1e3, MHZ: 1e6, GHZ: 1e9 }

interface Options {
  hzPerUnit: number
  parameter: 'S' | 'Z' | 'Y'
  pair: 'RI' | 'MA' | 'DB'
  referenceOhm: number
}

/** What the specification assumes where the option line is silent. */
const DEFAULTS: Options = { hzPerUnit: 1e9, parameter: 'S', pair: 'MA', referenceOhm: 50 }

/** What version 2 says in square brackets. */
interface Header {
  version2: boolean
  /** Lines that are text between [Begin Information] and [End Information]. */
  informing: boolean
  ended: boolean
  frequencies: number | null
  /** A keyword whose value stands on the next line. */
  awaiting: 'reference' | null
}

/**
 * Reads a one-port file and states its reflection on `referenceOhm`, whatever the file's own.
 * Understands RI, MA and DB pairs, Hz to GHz, S, Z and Y parameters, comments, CRLF.
 *
 * @throws TouchstoneError with the line; nothing is half-read
 */
export function readTouchstone(text: string, referenceOhm: number): OnePortSweep {
  let options: Options | null = null
  const header: Header = {
    version2: false,
    informing: false,
    ended: false,
    frequencies: null,
    awaiting: null,
  }
  const comments: string[] = []
  const frequency: number[] = []
  const re: number[] = []
  const im: number[] = []
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
      const reference = readKeyword(content, header, line)
      if (reference !== null) options = { ...(options ?? DEFAULTS), referenceOhm: reference }
      return
    }
    if (header.informing) return
    if (header.awaiting === 'reference') {
      header.awaiting = null
      options = { ...(options ?? DEFAULTS), referenceOhm: readReference(content, line) }
      return
    }
    if (content.startsWith('#')) {
      options ??= readOptions(content.slice(1), line)
      return
    }
    options ??= DEFAULTS
    const [f, a, b] = readNumbers(content, line)
    const hz = f * options.hzPerUnit
    const previous = frequency[frequency.length - 1] ?? 0
    if (!(hz > previous)) {
      throw new TouchstoneError(
        frequency.length === 0
          ? `the frequency must be more than 0, not ${f}.`
          : `frequencies must rise; ${f} comes after ${previous / options.hzPerUnit}.`,
        line,
      )
    }
    const own = reflectionFrom(complexFrom(a, b, options.pair), options, header.version2)
    const rho = renormalise(own, options.referenceOhm, referenceOhm)
    frequency.push(hz)
    re.push(rho.re)
    im.push(rho.im)
  })
  if (frequency.length === 0) {
    throw new TouchstoneError(
      'the file holds no data: expected lines of frequency and two numbers.',
      1,
    )
  }
  if (header.frequencies !== null && header.frequencies !== frequency.length) {
    throw new TouchstoneError(
      `the file promises ${header.frequencies} frequencies and holds ${frequency.length}; it may be cut off.`,
      text.split(/\r\n|\n|\r/).length,
    )
  }
  return {
    referenceOhm,
    frequencyHz: Float64Array.from(frequency),
    re: Float64Array.from(re),
    im: Float64Array.from(im),
    comments,
  }
}

/** Notes a version 2 keyword; gives the reference where this one is it. */
function readKeyword(content: string, header: Header, line: number): number | null {
  const match = /^\[([^\]]*)\]\s*(.*)$/.exec(content)
  if (!match)
    throw new TouchstoneError(`“${content}” is a keyword without its closing bracket.`, line)
  const [, keyword = '', value = ''] = match
  switch (keyword.toLowerCase()) {
    case 'version':
      header.version2 = true
      return null
    case 'number of ports':
      if (Number(value) !== 1)
        throw new TouchstoneError(`this file has ${value} ports; an antenna has one.`, line)
      return null
    case 'number of frequencies':
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

function readReference(text: string, line: number): number {
  const ohm = Number(text)
  if (ohm > 0) return ohm
  throw new TouchstoneError(`“${text}” is no reference resistance; write for example “50”.`, line)
}

function readOptions(text: string, line: number): Options {
  const options = { ...DEFAULTS }
  const words = text.trim().toUpperCase().split(/\s+/).filter(Boolean)
  for (let i = 0; i < words.length; i++) {
    const word = words[i]!
    if (word in HZ_PER_UNIT) options.hzPerUnit = HZ_PER_UNIT[word]!
    else if (word === 'S' || word === 'Z' || word === 'Y') options.parameter = word
    else if (word === 'RI' || word === 'MA' || word === 'DB') options.pair = word
    else if (word === 'R') {
      const ohm = Number(words[++i])
      if (!(ohm > 0)) {
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

function readNumbers(content: string, line: number): [number, number, number] {
  const words = content.split(/\s+/)
  if (words.length !== 3) {
    throw new TouchstoneError(
      `expected a frequency and two numbers, found ${words.length} ` +
        `${words.length === 1 ? 'value' : 'values'}${words.length > 3 ? '; is this a file of two or more ports?' : '.'}`,
      line,
    )
  }
  const bad = words.find((word) => !Number.isFinite(Number(word)))
  if (bad !== undefined) throw new TouchstoneError(`“${bad}” is not a number.`, line)
  return words.map(Number) as [number, number, number]
}

function complexFrom(a: number, b: number, pair: Options['pair']): Complex {
  if (pair === 'RI') return complex(a, b)
  const size = pair === 'DB' ? 10 ** (a / 20) : a
  const angle = (b * Math.PI) / 180
  return complex(size * Math.cos(angle), size * Math.sin(angle))
}

/** Version 1 files state Z and Y as multiples of the reference, version 2 in Ω and S. */
function reflectionFrom(
  value: Complex,
  { parameter, referenceOhm }: Options,
  version2: boolean,
): Complex {
  if (parameter === 'S') return value
  const unit = !version2 ? 1 : parameter === 'Z' ? referenceOhm : 1 / referenceOhm
  const rho = reflectionOf(value, unit)
  return parameter === 'Z' ? rho : complex(-rho.re, -rho.im)
}

/** Writes a one-port sweep as Touchstone version 1: Hz, real and imaginary part. */
export function writeTouchstone(sweep: OnePortSweep): string {
  const head = sweep.comments.map((comment) => `! ${comment}`)
  const rows = Array.from(sweep.frequencyHz, (hz, i) => `${hz} ${sweep.re[i]} ${sweep.im[i]}`)
  return [...head, `# Hz S RI R ${sweep.referenceOhm}`, ...rows, ''].join('\n')
}
