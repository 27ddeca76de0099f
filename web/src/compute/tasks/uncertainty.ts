/** Monte Carlo of a chain, of its limits, of what a tuner is worth to it; and the weighing of explanations. */
import {
  type Case,
  type Cause,
  type Chain,
  chainUncertainty,
  type ChannelUncertainty,
  type Diagnosis,
  InputError,
  limitsUncertainty,
  type LimitsUncertainty,
  type Meter,
  type NextReading,
  nextReadings,
  type NextSwap,
  nextSwaps,
  type NextSweep,
  nextSweep,
  type Reason,
  reasonsFor,
  type TwoThings,
  twoThings,
  type OperatingPoint,
  type PlaceRanges,
  prepare,
  type Prepared,
  type RatedChain,
  type ReadPoint,
  type Tolerances,
  type TunerStage,
  type Use,
  weigh,
  worthUncertainty,
} from '@saltline/core'
import { isPart } from '../../model/headroomWords.ts'
import type { Task } from '../task.ts'

/** What each channel comes to, one after the other; null where it comes to nothing. */
function byChannel<C, R>(
  channels: readonly C[],
  progress: (share: number) => void,
  draw: (channel: C, progress: (share: number) => void) => R,
): (R | null)[] {
  return channels.map((channel, c) => {
    try {
      return draw(channel, (share) => progress((c + share) / channels.length))
    } catch (error) {
      if (error instanceof InputError) return null
      throw error
    }
  })
}

/** By channel. */
export const rangesTask: Task<
  { chain: Chain; at: ReadPoint[]; tolerances: Tolerances },
  ChannelUncertainty[]
> = ({ chain, at, tolerances }, progress) => chainUncertainty(chain, at, tolerances, { progress })

/** By channel and use; null where the chain has no figure on the channel. */
export const limitsTask: Task<
  {
    chain: RatedChain
    channels: { at: OperatingPoint; uses: Use[] }[]
    tolerances: Tolerances
  },
  (LimitsUncertainty[] | null)[]
> = ({ chain, channels, tolerances }, progress) =>
  byChannel(channels, progress, ({ at, uses }, share) =>
    limitsUncertainty(chain, at, uses, tolerances, { counts: isPart, progress: share }),
  )

/** By channel and place; null where the chain has no figure on the channel. */
export const worthTask: Task<
  { chain: Chain; tuner: TunerStage; at: OperatingPoint[]; tolerances: Tolerances },
  (PlaceRanges[] | null)[]
> = ({ chain, tuner, at, tolerances }, progress) =>
  byChannel(
    at,
    progress,
    (each, share) => worthUncertainty(chain, tuner, [each], tolerances, { progress: share })[0]!,
  )

export interface Diagnosed {
  diagnosis: Diagnosis
  /** The readings that would tell most, each place once. */
  next: NextReading[]
  /** A lead whose swap would tell most. */
  swap: NextSwap | null
  /** Two causes at once, where they explain the readings better than one. */
  two: TwoThings | null
  /** Of the first two explanations, each against the other: which readings speak for it and which against, strongest first. */
  reasons: Reason[][]
}

/** On which channel a place is read seldom matters: the best one stands for it. */
const samePlace = (a: NextReading, b: NextReading): boolean =>
  a.plane === b.plane && a.instrument === b.instrument && a.farEnd === b.farEnd

/** Of so many chains a worker keeps what their diagnosis rests on. */
const KEPT = 2
const kept: { key: string; prepared: Prepared }[] = []

/** What the diagnosis of a chain on some channels rests on: the same for one reading more, so that it is made once. */
function preparedFor({ chain, channels, tolerances }: Case, progress: (share: number) => void) {
  const key = JSON.stringify([chain, channels, tolerances])
  const at = kept.findIndex((own) => own.key === key)
  const [known] = at < 0 ? [] : kept.splice(at, 1)
  const own = known ?? {
    key,
    prepared: prepare({ chain, channels, tolerances, instruments: [] }, progress),
  }
  kept.unshift(own)
  kept.length = Math.min(kept.length, KEPT)
  return own.prepared
}

/** @param costs of reading at each plane, in readings at the desk; null where it cannot be done today */
export const diagnosisTask: Task<
  { kase: Case; another: Meter; costs: (number | null)[] },
  Diagnosed
> = ({ kase, another, costs }, progress) => {
  const prepared = preparedFor(kase, (share) => progress(share * 0.6))
  const weighed = weigh(kase, progress, prepared)
  const { diagnosis } = weighed
  progress(1, { diagnosis, next: [], swap: null, two: null, reasons: [] })
  const planes = costs.map((_, plane) => plane)
  const costOf = (plane: number) => costs[plane] ?? Infinity
  const next = nextReadings(weighed, another, planes, costOf)
    .filter((own, i, all) => i === all.findIndex((other) => samePlace(own, other)))
    .slice(0, 3)
  const [first, second] = diagnosis.explanations
  const reasons = second && reasonsFor(weighed, first!.cause, second.cause)
  return {
    diagnosis,
    next,
    swap: nextSwaps(weighed, costOf)[0] ?? null,
    two: twoThings(weighed),
    reasons: reasons ? [reasons, reasons.map(({ reading, db }) => ({ reading, db: -db }))] : [],
  }
}

/** A sweep that would tell two causes apart: a task of its own, so that the ranking does not wait for it. */
export const nextSweepTask: Task<
  { kase: Case; between: readonly [Cause, Cause]; costs: (number | null)[] },
  NextSweep | null
> = ({ kase, between, costs }) => nextSweep(kase, between, (plane) => costs[plane] ?? Infinity)
