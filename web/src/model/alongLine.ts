/** Looking along a line from one end: where one can, how to sweep, and what was seen, in words. */
import { type ChainDocument, type Place, placesOf, type StageDocument } from '@saltline/contract'
import {
  type AlongLine,
  type Chain,
  decimals,
  type FarEnd,
  formatFrequency,
  formatLength,
  type LengthUnit,
  type LineFinding,
  pieceAlone,
  returnLossDb,
  type SweepSpan,
} from '@saltline/core'
import { farEnds } from './farEnds.ts'

export type SweepPlan = SweepSpan

/** What an analyser that is carried to a mast usually reaches. */
const ANALYSER_HZ: readonly [least: number, most: number] = [10e6, 500e6]
/** Few of them begin below this. */
const LEAST_HZ = 3e5
export const POINTS: readonly [least: number, most: number] = [16, 2001]

/** Planes from which cable can be seen: behind the last tuner or amplifier, with a line on the way to the antenna. */
export function planesAlong(document: Pick<ChainDocument, 'stages' | 'load'>): Place[] {
  const { stages } = document
  const behind = stages.findLastIndex(
    ({ kind, bypassed }) => !bypassed && (kind === 'tuner' || kind === 'amplifier'),
  )
  const lastLine = stages.findLastIndex(({ kind, bypassed }) => !bypassed && kind === 'line')
  return placesOf(document).filter(({ plane }) => plane > behind && plane <= lastLine)
}

/** Where an analyser can be connected: at a plane, looking along all that follows, or at one cable that is taken off. */
export interface Look {
  /** As a choice. */
  key: string
  /** The stage that it is in front of. */
  before: string
  alone: boolean
  name: string
}

/** All of them: planes from the radio on, then the cables by themselves. */
export const looksAlong = (document: Pick<ChainDocument, 'stages' | 'load'>): Look[] => [
  ...planesAlong(document).map(({ before, name }) => ({
    ...{ key: before, before, alone: false, name },
  })),
  ...document.stages.flatMap((stage) =>
    stage.kind === 'line' && !stage.bypassed && stage.lengthM > 0
      ? [{ ...aloneLook(stage.id), name: `at one end of ${stage.name} alone` }]
      : [],
  ),
]

const aloneLook = (id: string) => ({ key: `alone:${id}`, before: id, alone: true })

/** What is looked along: a chain, its plane, and the stages from there on. */
export interface Along {
  chain: Chain
  plane: number
  stages: readonly StageDocument[]
}

/** Null where the chain has no such stage. */
export function alongOf(
  { before, alone }: Pick<Look, 'before' | 'alone'>,
  { stages }: Pick<ChainDocument, 'stages'>,
  chain: Chain,
): Along | null {
  const plane = stages.findIndex(({ id }) => id === before)
  if (plane < 0) return null
  return alone
    ? { chain: pieceAlone(chain, plane), plane: 0, stages: [stages[plane]!] }
    : { chain, plane, stages: stages.slice(plane) }
}

/** What may be at the far end: a cable alone has no antenna there. */
export const farEndsOf = (look: Pick<Look, 'alone'> | undefined) =>
  look?.alone ? farEnds.filter(({ value }) => value !== 'antenna') : farEnds

/** How one would sweep a line that is not known yet: as wide as the cables' data and a usual analyser go. */
export function planFor(stages: readonly StageDocument[]): SweepPlan {
  const most = stages.reduce(
    (hz, stage) => (stage.kind === 'line' ? Math.min(hz, stage.cable.maxHz ?? hz) : hz),
    ANALYSER_HZ[1],
  )
  return { lowHz: Math.min(ANALYSER_HZ[0], most / 2), highHz: most, points: 401 }
}

/** What a sweep can tell before anything is read from it: how near, how far, and what would be better. */
export function reachWords(
  { resolutionM, unambiguousM, placesM, lowPass }: AlongLine,
  { lowHz, highHz, points }: SweepPlan,
  unit: LengthUnit,
): string {
  const length = (m: number) => formatLength(m, unit)
  const lengthM = placesM.at(-1)!
  const gaps = placesM.slice(1).flatMap((at, i) => {
    const gap = at - placesM[i]!
    return gap > 0 ? [gap] : []
  })
  const shortest = Math.min(...gaps)
  const words = [
    `${points} points from ${formatFrequency(lowHz)} to ${formatFrequency(highHz)}: resolution ${length(resolutionM)}, range ${length(unambiguousM)}.`,
  ]
  if (unambiguousM < 1.1 * lengthM)
    words.push(
      `The line is longer, ${length(lengthM)}: what lies beyond the range is drawn too near. Take ${Math.ceil((1.2 * points * lengthM) / unambiguousM)} points or more.`,
    )
  else if (resolutionM > shortest)
    words.push(
      `The shortest cable is ${length(shortest)}: a span of ${decimals(((highHz - lowHz) * resolutionM) / shortest / 1e6, 0)}\u00a0MHz would resolve its two ends.`,
    )
  const stepHz = Number((highHz / points).toPrecision(2))
  const step = formatFrequency(stepHz)
  if (lowPass)
    words.push('It begins at its own step, so it says whether an impedance rises or falls.')
  else if (stepHz >= LEAST_HZ)
    words.push(
      `From ${step} on in steps of ${step} it would resolve half of that, and say whether an impedance rises or falls.`,
    )
  return words.join(' ')
}

/** What a sweep would show that is not taken yet. */
export function planWords(
  { placesM, resolutionM }: AlongLine,
  { name }: Pick<Place, 'name'>,
  unit: LengthUnit,
): string {
  const where = name.startsWith('at ') ? name : `at the ${name}`
  return `A sweep ${where} would show where ${formatLength(placesM.at(-1)!, unit)} of line reflects, to ${formatLength(resolutionM, unit)}. This is what to expect.`
}

const rhoText = (rho: number): string =>
  `|ρ| ${decimals(rho, 2)}${rho > 0.005 ? ` (return loss ${decimals(returnLossDb(rho), 0)}\u00a0dB)` : ''}`

/** Where something was found, as one would say it at the mast. */
export function whereWords(
  { atM, stage, atJoint }: LineFinding,
  stages: readonly { name: string }[],
  placesM: readonly number[],
  unit: LengthUnit,
): string {
  const name = stages[stage]?.name ?? 'the end'
  const at = formatLength(atM, unit)
  return atJoint
    ? `at ${at}, at the input of ${name}`
    : `at ${at}, ${formatLength(Math.max(0, atM - placesM[stage]!), unit)} into ${name}`
}

const riseWords = ({ rises }: LineFinding): string =>
  rises === null ? '' : `; the impedance ${rises ? 'rises' : 'falls'} there`

/** An end that is found elsewhere than written down by less than this share of the length is where it should be. */
const LENGTH_SHARE = 0.015
/** More loss than this, one way, is worth saying, dB. */
const LEAST_LOSS_DB = 0.2

/** What was seen, a sentence each; the first is the answer. */
export function seenWords(
  along: AlongLine,
  stages: readonly { name: string }[],
  farEnd: FarEnd,
  unit: LengthUnit,
): string[] {
  const { findings, end, placesM, resolutionM } = along
  const lengthM = placesM.at(-1)!
  const words = findings.map(
    (finding) =>
      `More is reflected than expected ${whereWords(finding, stages, placesM, unit)}: ${rhoText(finding.measured)}, expected ${decimals(finding.expected, 2)}${riseWords(finding)}.`,
  )
  if (end) {
    const off = end.atM - lengthM
    if (Math.abs(off) > Math.max(resolutionM / 4, LENGTH_SHARE * lengthM))
      words.push(
        `The ${farEnd === 'open' ? 'open' : 'shorted'} end is found at ${formatLength(end.atM, unit)}, ${formatLength(Math.abs(off), unit)} ${off > 0 ? 'further' : 'nearer'} than expected: check the lengths and velocity factors, or whether the cable is broken there.`,
      )
    if (end.extraLossDb > LEAST_LOSS_DB)
      words.push(
        `The line loses ${decimals(end.extraLossDb, 1)}\u00a0dB more than expected, one way.`,
      )
    else if (end.extraLossDb < -LEAST_LOSS_DB)
      words.push(
        `The line loses ${decimals(-end.extraLossDb, 1)}\u00a0dB less than expected, one way.`,
      )
  } else if (farEnd === 'open' || farEnd === 'short')
    words.push('No end is seen: nothing is reflected from where it should be.')
  return words.length > 0 ? words : [`As expected along all ${formatLength(lengthM, unit)}.`]
}
