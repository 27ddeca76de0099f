/** Things of the register: in words, and what follows where one changes. */
import {
  asStage,
  type ChainDocument,
  type StageDocument,
  type Thing,
  type ThingBody,
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
export const thingFacts = (stage: StageDocument, unit: LengthUnit): string =>
  stage.kind === 'line'
    ? `${stage.cable.name}, ${formatLength(stage.lengthM, unit)}`
    : kindOf(stage).title(stage) === stage.name
      ? ''
      : kindOf(stage).title(stage)

export const bodyOfThing = ({
  mark,
  stage,
  where,
  state,
  serial,
  boughtOn,
  price,
  note,
}: ThingBody): ThingBody => ({
  ...{ mark, stage, where, state, serial, note },
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
export const chainsOf = ({ places }: Pick<Thing, 'places'>): string =>
  places.length === 0
    ? 'in no chain'
    : new Intl.ListFormat('en', { type: 'conjunction' }).format(places.map(({ chain }) => chain))
