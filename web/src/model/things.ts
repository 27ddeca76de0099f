/** Things of the register: in words, and what follows where one changes. */
import {
  asStage,
  type ChainDocument,
  type Gear,
  type StageDocument,
  type Thing,
  type ThingBody,
  type ThingHistory,
  type ThingLoss,
} from '@saltline/contract'
import {
  type Chain,
  decimals,
  formatFrequency,
  formatLength,
  formatPower,
  type LengthUnit,
  type PowerUnit,
  stressesOf,
  tightest,
} from '@saltline/core'
import { answerChannel } from './answers.ts'
import { partName, surroundingsOf } from './headroomWords.ts'
import { kindOf } from './stages/index.ts'

/** What a change that follows must come to, to be said: W as a share, and dB of headroom. */
const LEAST_SHARE = 0.005
const LEAST_DB = 0.1

/** As “5 mm solid PE, 46 m”. */
export const stageFacts = (stage: StageDocument, unit: LengthUnit): string =>
  stage.kind === 'line'
    ? `${stage.cable.name}, ${formatLength(stage.lengthM, unit)}`
    : kindOf(stage).title(stage) === stage.name
      ? ''
      : kindOf(stage).title(stage)

const gearWords: Record<Gear['kind'], string> = {
  ...{ transmitter: 'Radio', amplifier: 'Amplifier', tuner: 'Tuner', instrument: 'Instrument' },
  ...{ cable: 'Cable', sheet: 'Run sheet' },
}

/** What a thing is: of a stage its figures, of the rest its kind. */
export function thingFacts(
  { stage, of }: Pick<ThingBody, 'stage' | 'of'>,
  unit: LengthUnit,
  gear: readonly Gear[] = [],
): string {
  if (stage) return stageFacts(stage, unit)
  if (of?.kind === 'antenna') return 'Antenna'
  const entry = gear.find(({ id }) => id === of?.id)
  return entry ? gearWords[entry.kind] : ''
}

export const bodyOfThing = ({
  mark,
  stage,
  of,
  where,
  state,
  movedTo,
  serial,
  boughtOn,
  price,
  note,
}: ThingBody): ThingBody => ({
  ...{ mark, where, state, movedTo, serial, note },
  ...(stage && { stage }),
  ...(of && { of }),
  ...(boughtOn !== undefined && { boughtOn }),
  ...(price !== undefined && { price }),
})

/** A chain where the thing has other figures. */
export const withThing = (
  document: ChainDocument,
  thingId: string,
  figures: StageDocument,
): ChainDocument => ({
  ...document,
  stages: document.stages.map((stage) =>
    stage.thingId === thingId ? asStage(figures, stage, thingId) : stage,
  ),
})

/**
 * What follows in a chain: the channel whose power at the antenna changes most, and the part whose headroom does.
 *
 * @param chainOf a document as a chain to be solved; null where its antenna is not there
 * @returns phrases; none where nothing changes that is worth saying
 */
export function consequences(
  before: ChainDocument,
  after: ChainDocument,
  chainOf: (document: ChainDocument) => Chain | null,
  power: PowerUnit = 'W',
): string[] {
  const [was, will] = [solved(before, chainOf), solved(after, chainOf)]
  if (!was || !will) return ['it cannot be solved']
  const [most] = was
    .flatMap((own, i) => {
      const next = will[i]!
      return own && next
        ? [{ own, next, share: Math.abs(next.antennaW / own.antennaW - 1) || 0 }]
        : []
    })
    .sort((a, b) => b.share - a.share)
  const phrases: string[] = []
  if (most && most.share > LEAST_SHARE)
    phrases.push(
      `${formatPower(most.own.antennaW, power)} → ${formatPower(most.next.antennaW, power)} on ${formatFrequency(most.own.frequencyHz)}`,
    )
  const [nearer] = was
    .flatMap((own, i) => {
      const next = will[i]
      const of = own?.least && next?.least && next.least.part === own.least.part
      return of ? [{ part: own.least!.part, db: own.least!.db - next.least!.db }] : []
    })
    .sort((a, b) => Math.abs(b.db) - Math.abs(a.db))
  if (nearer && Math.abs(nearer.db) >= LEAST_DB)
    phrases.push(
      `${partName(after, nearer.part)} ${decimals(Math.abs(nearer.db), 1)}\u00a0dB ${nearer.db > 0 ? 'nearer' : 'farther from'} its limit`,
    )
  return phrases
}

interface Solved {
  frequencyHz: number
  antennaW: number
  /** The part that is nearest to its limit. */
  least: { part: number; db: number } | null
}

function solved(
  document: ChainDocument,
  chainOf: (document: ChainDocument) => Chain | null,
): (Solved | null)[] | null {
  const chain = chainOf(document)
  if (!chain) return null
  return document.channels.map((channel) => {
    const answer = answerChannel(chain, document.transmitter, channel)
    if (!answer.ok) return null
    const { solution } = answer
    const stresses = stressesOf(document.stages, solution, surroundingsOf(document, channel))
    const { part, headroomDb } = tightest(stresses) ?? {}
    return {
      frequencyHz: channel.frequencyHz,
      antennaW: solution.antennaW,
      least:
        part === undefined || headroomDb === undefined || headroomDb === null
          ? null
          : { part, db: headroomDb },
    }
  })
}

/** Where it stands, as “HF long run and HF with amplifier”. */
export const chainsOf = ({ places }: { places: readonly { chain: string }[] }): string =>
  places.length === 0
    ? 'in no chain'
    : new Intl.ListFormat('en', { type: 'conjunction' }).format(places.map(({ chain }) => chain))

/** As “0.42 dB with Choke, 0.1 dB more than expected; 0.05 dB a year”: the newest loss of a section that it is in. */
export function lossWords({ with: others, points, drift }: ThingLoss): string {
  const last = points.at(-1)!
  const db = (value: number) => `${decimals(value, 2)}\u00a0dB`
  const by = last.expectedDb === null ? null : last.lossDb - last.expectedDb
  const outside =
    last.highDb !== null &&
    last.lowDb !== null &&
    (last.lossDb > last.highDb || last.lossDb < last.lowDb)
  return [
    `${db(last.lossDb)}${others.length > 0 ? ` together with ${list(others)}` : ''}`,
    by === null
      ? null
      : outside
        ? `${db(Math.abs(by))} ${by > 0 ? 'more' : 'less'} than expected`
        : 'as expected',
    drift && Math.abs(drift.slope) >= WORTH_A_YEAR_DB && drift.low * drift.high > 0
      ? `${drift.slope > 0 ? 'grows' : 'falls'} by ${db(Math.abs(drift.slope))} a year (${decimals(drift.low, 2)} to ${decimals(drift.high, 2)})`
      : null,
  ]
    .filter(Boolean)
    .join(', ')
}

/** A drift that is worth a word, dB a year. */
const WORTH_A_YEAR_DB = 0.02

const list = (names: readonly string[]): string =>
  new Intl.ListFormat('en', { type: 'conjunction' }).format(names)

/** What it lost when it was read last, in one phrase for a phone at the mast; null where it was never read alone. */
export function lastLoss({ losses }: ThingHistory): { at: number; words: string } | null {
  const [last] = losses
    .filter(({ with: others, points }) => others.length === 0 && points.length > 0)
    .sort((a, b) => b.points.at(-1)!.at - a.points.at(-1)!.at)
  if (!last) return null
  const { frequencyHz } = last
  const on = frequencyHz === null ? '' : ` on ${formatFrequency(frequencyHz)}`
  return { at: last.points.at(-1)!.at, words: `${lossWords(last)}${on}` }
}

/** As “L1 Patch lead is gone: it was moved to HF with amplifier”; null where it is there, or never was. */
export function gonePart(
  { id, mark, name, places }: Thing,
  chainId: string,
): { id: string; words: string } | null {
  if (!places.some((place) => place.chainId === chainId && place.gone)) return null
  const now = places.find(({ gone }) => !gone)?.chain
  return { id, words: `${mark} ${name} is gone${now ? `: it was moved to ${now}` : ''}` }
}
