/** Sweeps that were kept: what they came to, and what changed from one to the next, in words. */
import type { LineSweepSummary } from '@saltline/contract'
import {
  type AnalyserErrors,
  type AlongLine,
  decimals,
  type FarEnd,
  formatLength,
  formatSwr,
  type LengthUnit,
  type Outside,
  type SweepChange,
  sweepChanges,
  type SweepFigure,
  type SweepFigureName,
  type SweepFigures,
  type SweepRecord,
  sweepRecords,
  swrOf,
  usualAnalyser,
} from '@saltline/core'
import { seenWords } from './alongLine.ts'

const db = (value: number) => `${decimals(Math.abs(value), 2)}\u00a0dB`
const kHz = (hz: number) => `${decimals(Math.abs(hz) / 1e3, Math.abs(hz) < 1e4 ? 1 : 0)}\u00a0kHz`
/** Sweeps are no finer than that. */
const MHz = (hz: number) => `${decimals(hz / 1e6, 2)}\u00a0MHz`

/** What a sweep came to, in one line. */
export function sweepFacts({ figures, farEnd }: LineSweepSummary, unit: LengthUnit): string {
  const { dips, extraLossDb, endM } = figures
  if (farEnd === 'antenna')
    return dips.length === 0
      ? 'no dip of the SWR'
      : dips.map(({ at, swr }) => `SWR ${formatSwr(swr.value)} at ${MHz(at.value)}`).join(', ')
  return [
    endM && `end at ${formatLength(endM.value, unit)}`,
    extraLossDb && extraLossWords(extraLossDb),
    // A load reflects nothing that could be seen.
    !endM && farEnd !== 'load' && 'no end seen',
  ]
    .filter(Boolean)
    .join(', ')
}

/** Less than the analyser may be off by is as expected. */
function extraLossWords({ value, low, high }: SweepFigure): string {
  if (low < 0 && high > 0) return `loss as expected (±\u00a0${db((high - low) / 2)})`
  return `${db(value)} ${value < 0 ? 'less' : 'more'} loss than expected`
}

/** Figures that say something of what the far end was. */
export const telling = (farEnd: LineSweepSummary['farEnd'], name: SweepFigureName): boolean =>
  name === 'loss' || name === 'end' ? farEnd !== 'antenna' : farEnd === 'antenna'

/** As “the dip at 8.43 MHz moved down by 55 kHz (± 34 kHz)”. */
function changeWords({ name, nearHz, from, to, reach }: SweepChange, unit: LengthUnit): string {
  const by = to - from
  const at = nearHz === null ? '' : MHz(nearHz)
  switch (name) {
    case 'dip':
      return `the dip at ${at} moved ${by < 0 ? 'down' : 'up'} by ${kHz(by)} (±\u00a0${kHz(reach)})`
    case 'swr':
      return `the SWR at ${at} went from ${formatSwr(from)} to ${formatSwr(to)}`
    case 'bandwidth':
      return `the band up to SWR 2 around ${at} is ${kHz(by)} ${by < 0 ? 'narrower' : 'wider'} (±\u00a0${kHz(reach)})`
    case 'loss':
      return `the line loses ${db(by)} ${by < 0 ? 'less' : 'more'} (±\u00a0${db(reach)})`
    case 'end':
      return `the far end is found ${formatLength(Math.abs(by), unit)} ${by < 0 ? 'nearer' : 'further out'} (±\u00a0${formatLength(reach, unit)})`
  }
}

/** What moved since an earlier sweep of the same place by more than the analyser may be off, a phrase each. */
export const sinceWords = (
  then: { figures: SweepFigures },
  now: SweepFigures,
  farEnd: LineSweepSummary['farEnd'],
  unit: LengthUnit,
): string[] =>
  sweepChanges(then.figures, now)
    .filter(({ name, real }) => real && telling(farEnd, name))
    .map((change) => changeWords(change, unit))

/** As “SWR 3.1 from 7.1 to 7.3 MHz, expected 1.5 to 1.9”. */
function outsideWords({ lowHz, highHz, measured, low, high }: Outside): string {
  const swr = (rho: number) => formatSwr(swrOf(Math.min(0.999, rho)))
  const where = lowHz === highHz ? `at ${MHz(lowHz)}` : `from ${MHz(lowHz)} to ${MHz(highHz)}`
  return `Other than expected ${where}: SWR ${swr(measured)}, expected ${swr(low)} to ${swr(high)}.`
}

/** Sweeps of one place in one state. */
interface SweepGroup extends Pick<LineSweepSummary, 'place' | 'farEnd'> {
  /** How many. */
  count: number
  records: SweepRecord[]
}

/** What the sweeps of each place in one state say over the years. */
export function sweepGroups(sweeps: readonly LineSweepSummary[]): SweepGroup[] {
  const groups = new Map<string, LineSweepSummary[]>()
  for (const sweep of sweeps) {
    const key = `${sweep.before} ${sweep.alone} ${sweep.farEnd}`
    groups.set(key, [...(groups.get(key) ?? []), sweep])
  }
  return [...groups.values()].map((own) => {
    const kept = own.map(({ id, readAt, figures }) => ({ id, at: Date.parse(readAt), figures }))
    const { place, farEnd } = own.reduce((a, b) => (b.readAt > a.readAt ? b : a))
    return { place, farEnd, count: own.length, records: sweepRecords(kept) }
  })
}

/** What drifts over the sweeps of one place in one state, a sentence each. */
export const driftWords = (sweeps: readonly LineSweepSummary[], unit: LengthUnit): string[] =>
  sweepGroups(sweeps).flatMap(({ place, farEnd, count, records }) =>
    records.flatMap((record) =>
      telling(farEnd, record.name) && record.trend?.drifts
        ? [`${place}: ${driftOf(record, record.trend.slope, unit)} a year, over ${count} sweeps.`]
        : [],
    ),
  )

/** @param slope a year; of an SWR, in |ρ| */
function driftOf({ name, nearHz, points }: SweepRecord, slope: number, unit: LengthUnit): string {
  const at = nearHz === null ? '' : MHz(nearHz)
  switch (name) {
    case 'dip':
      return `the dip at ${at} moves ${slope < 0 ? 'down' : 'up'} by ${kHz(slope)}`
    case 'swr': {
      const now = points.at(-1)!.value
      const by = swrOf(now) - swrOf(Math.max(0, now - slope))
      return `the SWR at ${at} ${by < 0 ? 'falls' : 'rises'} by ${decimals(Math.abs(by), 2)}`
    }
    case 'bandwidth':
      return `the band up to SWR 2 around ${at} becomes ${slope < 0 ? 'narrower' : 'wider'} by ${kHz(slope)}`
    case 'loss':
      return `the line loses ${db(slope)} ${slope < 0 ? 'less' : 'more'}`
    case 'end':
      return `the far end moves ${slope < 0 ? 'nearer' : 'outward'} by ${formatLength(Math.abs(slope), unit)}`
  }
}

/** What a sweep says, a sentence each; the first is the answer. */
export function sweepAnswer(
  along: AlongLine & { outside: Outside | null },
  stages: readonly { name: string }[],
  farEnd: FarEnd,
  unit: LengthUnit,
): string[] {
  const seen = seenWords(along, stages, farEnd, unit)
  if (!along.outside || farEnd !== 'antenna') return seen
  const outside = outsideWords(along.outside)
  // A loss, or another antenna, shows at the analyser without a place that reflects.
  return along.findings.length > 0
    ? [...seen, outside]
    : [outside, `No place along the ${formatLength(along.placesM.at(-1)!, unit)} reflects more.`]
}

/** Readings and sweeps that lie further apart are of two sessions. */
const SESSION_MS = 12 * 36e5
/** More sweeps than this of one session are not weighed: the newest are. */
const MOST_WEIGHED = 3

/** Sweeps that were taken with some readings, the newest first. */
export const sessionSweeps = <S extends Pick<LineSweepSummary, 'readAt'>>(
  sweeps: readonly S[],
  readings: readonly { readAt: string }[],
): S[] =>
  sweeps
    .filter(({ readAt }) =>
      readings.some((r) => Math.abs(Date.parse(r.readAt) - Date.parse(readAt)) <= SESSION_MS),
    )
    .toSorted((a, b) => (a.readAt < b.readAt ? 1 : -1))
    .slice(0, MOST_WEIGHED)

/** How far an analyser may be off, in words. */
export function analyserWords(analyser: AnalyserErrors): string {
  const { directivityDb, sourceMatchDb, noiseDb } = analyser
  const keys = ['directivityDb', 'sourceMatchDb', 'noiseDb'] as const
  const typical = keys.every((key) => analyser[key] === usualAnalyser[key])
  return `Analyser: directivity ${directivityDb}\u00a0dB, source match ${sourceMatchDb}\u00a0dB, noise −${noiseDb}\u00a0dB${typical ? ', typical' : ''}`
}
