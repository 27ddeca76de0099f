/** Faults in the words of the bench. */
import {
  type AntennaChange,
  type Case,
  type Cause,
  decimals,
  type FarEnd,
  formatFrequency,
  formatPercent,
  formatPower,
  jointOhm,
  type NextReading,
  type NextSwap,
  type PowerUnit,
  REFERENCE_OHM,
} from '@saltline/core'

/** What things are called at this station. */
export interface CaseNames {
  stages: readonly string[]
  /** By index of the operating point. */
  channels: readonly string[]
  instruments: readonly string[]
  readings: readonly string[]
}

const db = (value: number) => `${decimals(Math.abs(value), Math.abs(value) < 3 ? 1 : 0)}\u00a0dB`

const ohms = (value: number) => `${decimals(value, value < 10 ? 1 : 0)}\u00a0Ω`

/** What is wrong, as a heading. */
export function causeTitle(cause: Cause, names: CaseNames): string {
  switch (cause.kind) {
    case 'none':
      return 'Nothing is wrong'
    case 'transmitter': {
      const way = cause.db < 0 ? 'down' : 'up'
      const where = cause.point === null ? 'on every channel' : `on ${names.channels[cause.point]}`
      return `Transmitter ${way} by ${db(cause.db)} ${where}`
    }
    case 'loss':
      return cause.joint
        ? `Joint of ${ohms(jointOhm(cause.db, REFERENCE_OHM))} (${db(cause.db)}) in ${span(cause, names)}`
        : `${db(cause.db)} lost in ${span(cause, names)}`
    case 'aged':
      return `${names.stages[cause.stage]} aged: ${decimals(cause.factor, 1)} times its loss`
    case 'antenna':
      return `Antenna ${antennaWords(cause.change)}${cause.point === null ? '' : ` on ${names.channels[cause.point]}`}`
    case 'meter':
      return cause.why === 'scale'
        ? `${names.instruments[cause.instrument]} on the wrong scale: shows ${times(cause.factor)}`
        : `${names.instruments[cause.instrument]} shows ${db(10 * Math.log10(cause.factor))} too ${cause.factor < 1 ? 'little' : 'much'}`
    case 'averaging':
      return `${names.instruments[cause.instrument]} shows the average, not the peak`
    case 'common mode':
      return 'Common-mode current disturbs the reflected readings'
    case 'slip':
      return `Misread or mistyped reading: ${names.readings[cause.reading]}`
    case 'other':
      return 'Something that is none of these'
  }
}

const times = (factor: number): string =>
  factor >= 1
    ? `${decimals(factor, 1)} times the power`
    : `1/${decimals(1 / factor, 1)} of the power`

function span({ from, to }: { from: number; to: number }, { stages }: CaseNames): string {
  if (from === to) return `${stages[from]}`
  const names = stages.slice(from, to + 1)
  return names.length <= 3
    ? `${names.slice(0, -1).join(', ')} or ${names.at(-1)}`
    : `${names[0]} to ${names.at(-1)}`
}

function antennaWords(change: AntennaChange): string {
  if (change.kind === 'broken') return 'open or shorted'
  if (change.kind === 'other') return 'changed'
  const way = change.share < 0 ? 'down' : 'up'
  return `drifted ${way} by ${decimals(100 * Math.abs(change.share), 0)}\u00a0%`
}

/** What to look at first. */
export function causeAdvice(cause: Cause): string {
  switch (cause.kind) {
    case 'none':
      return 'Taken together, the readings are within the uncertainty of chain and meters.'
    case 'transmitter':
      return cause.db > 0
        ? 'Look at the power setting of each channel.'
        : 'Look for a reduced-power setting, a power or drive control turned down, a weak supply.'
    case 'loss':
      return 'Open, clean and tighten its connectors; measure it by substitution.'
    case 'aged':
      return 'Measure it by substitution on several frequencies: a loss that grows with frequency is the cable, one that does not is a joint.'
    case 'antenna':
      return 'Sweep the antenna at its feed point, or swap in a dummy load: what stays is not the antenna.'
    case 'meter':
    case 'averaging':
      return 'Put a second meter in line on the same steady carrier.'
    case 'common mode':
      return 'Put a choke near the antenna, and read again: figures that moved with the lead should stand still.'
    case 'slip':
      return 'Read it again before anything else.'
    case 'other':
      return 'Check that the chain is written down as it stands, and that every reading has its place, channel and range.'
  }
}

/** A reading to take, in words. */
export const siteWords = (
  { point, plane }: { point: number; plane: number },
  places: readonly string[],
  channelsHz: readonly number[],
): string => `${places[plane]} on ${formatFrequency(channelsHz[point]!)}`

/** A channel of the chain, and what is set on it, W. */
export interface OwnChannel {
  id: string
  powerW: number
}

/** What is needed to say how a reading is taken: the points of the case, and the chain's channel of each. */
export interface Points {
  kase: Pick<Case, 'channels'>
  own: readonly (OwnChannel | null)[]
}

/** Power to set for a reading, W, rounded where a share of a point's is asked for; null where it is what is set anyway. */
export function setPowerOf(
  { share, point }: Pick<NextReading, 'share' | 'point'>,
  { kase, own }: Points,
): number | null {
  const { powerW } = kase.channels[point]!
  const watts = share < 1 ? Number((share * powerW).toPrecision(2)) : powerW
  return watts === own[point]?.powerW ? null : watts
}

/** How a reading is advised to be taken: at which power where that is another one, with another meter where that tells more. */
export function howWords(
  next: Pick<NextReading, 'share' | 'point' | 'instrument'>,
  made: Points,
  unit: PowerUnit,
): string {
  const setW = setPowerOf(next, made)
  return (
    (setW === null ? '' : `, at ${formatPower(setW, unit)}`) +
    (next.instrument === null ? ', with another meter' : '') +
    intoWords(next, made)
  )
}

/** What to connect first, where it is not the antenna. */
export const endWords = (farEnd: FarEnd = 'antenna'): string =>
  ({
    antenna: '',
    load: ', with a dummy load in the antenna’s place',
    open: ', with the antenna disconnected',
    short: ', with a short in the antenna’s place',
  })[farEnd]

/** The same of a reading. */
export const intoWords = ({ point }: { point: number }, { kase }: Pick<Points, 'kase'>): string =>
  endWords(kase.channels[point]!.farEnd)

/** What swapping a lead for a good one tells. */
export const swapWords = ({ settles, showsW: [before, after] }: NextSwap): string =>
  'with the transmitter off while you swap; reduces the uncertainty about the cause by about ' +
  `${formatPercent(settles)}: ${formatPower(before)} becomes ${formatPower(after)} if the lead is at fault`

/** How strongly one reading speaks between two explanations; evidence in decibels. */
export const evidenceWords = (evidenceDb: number): string =>
  `${decimals(Math.abs(evidenceDb), 0)}\u00a0dB ${evidenceDb > 0 ? 'for' : 'against'}`
