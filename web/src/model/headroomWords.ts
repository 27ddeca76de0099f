/** Limits in words: parts, kinds, standings. */
import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import {
  decimals,
  formatFrequency,
  formatLength,
  formatPercent,
  floorPower,
  formatPower,
  formatSwr,
  formatVolt,
  type LengthUnit,
  type LimitsUncertainty,
  modeOf,
  type ModeId,
  type MostPower,
  type PowerUnit,
  type Standing,
  standingOf,
  bandAt,
  gainAt,
  type Stress,
  type StressRange,
  type Surroundings,
} from '@saltline/core'
import { ratedOn } from './answers.ts'
import { ofSamples, rangeText, wattsText } from './wattsText.ts'

/** Cable ratings hold at 40 °C; taken where nothing else is said. */
export const USUAL_AMBIENT_C = 40

/** What a licence allows on a frequency. */
export const licenceAt = (licence: ChainDocument['licence'], hz: number): Surroundings['licence'] =>
  licence && {
    kind: licence.kind,
    average: licence.average,
    watts: bandAt(licence.bands ?? [], hz)?.watts ?? licence.watts,
  }

/** Whether a licence speaks of radiated power on a frequency where the antenna has no gain to judge it by. */
export const lacksGain = (
  document: Pick<ChainDocument, 'licence' | 'antennaGainDbi' | 'antennaGains'>,
  { frequencyHz }: Pick<ChannelDocument, 'frequencyHz'>,
): boolean =>
  (document.licence?.kind === 'EIRP' || document.licence?.kind === 'ERP') &&
  gainAt(document, frequencyHz) === undefined

export const surroundingsOf = (
  document: ChainDocument,
  channel: ChannelDocument,
): Surroundings => ({
  emission: channel,
  longestOverS: channel.longestOverS,
  ambientC: document.ambientC ?? USUAL_AMBIENT_C,
  ratedW: ratedOn(document.transmitter, channel.frequencyHz),
  licence: licenceAt(document.licence, channel.frequencyHz),
  antennaGainDbi: gainAt(document, channel.frequencyHz),
  loadAverageW: document.loadAverageW,
})

export const partName = ({ transmitter, stages, load }: ChainDocument, part: number): string =>
  part < 0 ? transmitter.name : part >= stages.length ? load.name : stages[part]!.name

const kindNames: Record<Stress['kind'], string> = {
  voltage: 'voltage',
  heat: 'heating',
  firing: 'firing voltage',
  power: 'rating',
  drive: 'drive',
  SWR: 'SWR trip',
  reflected: 'reflected-power trip',
  licence: 'licence',
}
export const kindName = ({ kind }: Stress): string => kindNames[kind]

/** Why a part is the limiting one. */
const reasons: Record<Stress['kind'], string> = {
  voltage: 'voltage',
  heat: 'heating',
  firing: 'it fires',
  power: 'power rating',
  drive: 'overdriven',
  SWR: 'its SWR protection trips',
  reflected: 'its reflected-power protection trips',
  licence: 'licence',
}

export function figureOf({ unit }: Stress, value: number, power: PowerUnit = 'W'): string {
  if (unit === 'V rms') return `${formatVolt(value)} rms`
  if (unit === 'V peak') return `${formatVolt(value)} peak`
  if (unit === 'W/m') return `${formatPower(value)}/m`
  return unit === 'W' ? formatPower(value, power) : formatSwr(value)
}

/** Where a stress most likely is, and how often it is past its limit. */
export function rangeOfStress(
  stress: Stress,
  { stress: range, over }: StressRange,
  power: PowerUnit = 'W',
): string {
  const text = rangeText(stress.stress, range, (value) => figureOf(stress, value, power))
  return over >= 0.005 ? `${text}, over in ${formatPercent(over)}` : text
}

/** The range of the most power, and how often the set power is too much, in sentences. */
export function howSureText(
  { mostW, over }: LimitsUncertainty,
  settingW: number,
  phaseUnknown: boolean,
  power: PowerUnit,
): string {
  if (!mostW || !Number.isFinite(mostW.low)) return 'Ranges are 5–95 %.'
  const most = `The most power may be ${wattsText(mostW.low, power, mostW)} (5–95 %).`
  const worst = phaseUnknown
    ? ' The figure above holds for the worst phase of the antenna; the range for any.'
    : ''
  const now = ` At ${formatPower(settingW, power)} a part is over its limit in ${ofSamples(over)}.`
  return `${most}${worst}${now}`
}

/** A shape and a word, besides any colour. */
export const standingText: Record<Standing, string> = {
  ok: '○ ok',
  tight: '◐ tight',
  over: '▲ over',
  unknown: '? not known',
}

export const placeText = ({ fromLoadM }: Stress, unit: LengthUnit): string =>
  fromLoadM === undefined
    ? ''
    : fromLoadM < 0.05
      ? 'at its antenna end'
      : `${formatLength(fromLoadM, unit)} from its antenna end`

export const headroomText = (stress: Stress): string =>
  stress.headroomDb === null
    ? standingText[standingOf(stress)]
    : stress.headroomDb < 0
      ? `${decimals(-stress.headroomDb, 1)}\u00a0dB over`
      : `${decimals(stress.headroomDb, 1)}\u00a0dB`

/** What does not bound the chain's parts: the radio's own rating and the licence are said beside. */
export const isPart = ({ kind, part }: Stress): boolean =>
  kind !== 'licence' && !(kind === 'power' && part < 0)

/** The first sentence: the most that may be set, and the limiting part. */
export function verdictText(
  document: ChainDocument,
  channel: ChannelDocument,
  settingW: number,
  { powerW, by, unknown }: MostPower,
  unit: LengthUnit,
  power: PowerUnit = 'W',
): string {
  const mode = modeOf(channel.mode).short
  const rest =
    unknown > 0 ? ` ${unknown} ${unknown === 1 ? 'limit is' : 'limits are'} not known.` : ''
  if (by === null) return `No limit is known of any part of this chain.${rest}`
  const name = partName(document, by.part)
  const place = placeText(by, unit)
  if (by.kind === 'SWR')
    return `${name} trips at any power: its SWR of ${formatSwr(by.stress)} is over ${formatSwr(by.limit!)}.${rest}`
  const limiting = `${name} (${[reasons[by.kind], place].filter(Boolean).join(', ')})`
  if (!Number.isFinite(powerW)) return `Good at any power that can be set.${rest}`
  return powerW >= settingW
    ? `Good to ${formatPower(floorPower(powerW), power)} on ${mode}. The limiting part is ${limiting}.${rest}`
    : `Too much: on ${formatFrequency(channel.frequencyHz)} ${mode} is limited to ${formatPower(floorPower(powerW), power)} by ${limiting}.${rest}`
}

/** The modes that most power is told in, besides a channel's own. */
export const mostModes: readonly ModeId[] = ['voice-plain', 'voice-processed', 'CW', 'data']

/** The channel as it would be in another mode. */
export const inMode = (channel: ChannelDocument, mode: ModeId): ChannelDocument =>
  mode === channel.mode ? channel : { ...channel, mode, meanToPeak: undefined, keyDown: undefined }
