/** A figure over the years, in words, and how it is drawn. */
import {
  decimals,
  LEAST_JUDGED,
  longAgoWords,
  type SweepFigureName,
  type SweepRecord,
  swrOf,
  type YearRecord,
  type YearSubject,
} from '@saltline/core'
import { dayText, type LineSweepSummary } from '@saltline/contract'
import { sweepGroups, telling } from './lineSweeps.ts'

/** How a quantity of the record is shown. */
export interface YearQuantity {
  /** As it is drawn: MHz of Hz, the SWR of |ρ|. */
  shown: (value: number) => number
  figure: (value: number) => string
  /** Of the axis, for what is shown. */
  axis: (shown: number) => string
  /** As “0.3 dB more than”; of a level before the change. */
  moved: (by: number, before: number) => string
  /** A change a year, with its sign; null where none is said. */
  slope: ((perYear: number) => string) | null
  /** What it was read by. */
  by: 'readings' | 'sweeps'
}

const same = (v: number) => v
/** What is shown as nothing has no sign. */
const signed = (v: number, text: (size: number) => string) =>
  text(Math.abs(v)) === text(0) ? text(0) : `${v < 0 ? '−' : '+'}${text(Math.abs(v))}`

const dB = (places: number) => (v: number) => `${decimals(v, places)}\u00a0dB`
const inDb: YearQuantity = {
  ...{ shown: same, figure: dB(2), axis: (v) => decimals(v, 1), by: 'readings' },
  moved: (by) => `${dB(1)(Math.abs(by))} ${by > 0 ? 'more' : 'less'} than`,
  slope: (perYear) => signed(perYear, dB(2)),
}
const asSwr: YearQuantity = {
  ...{ shown: swrOf, figure: (v) => `SWR ${decimals(swrOf(v), 2)}`, axis: (v) => decimals(v, 2) },
  moved: (by, before) =>
    `${by > 0 ? 'up' : 'down'} from SWR ${decimals(swrOf(Math.max(0, before)), 2)}`,
  ...{ slope: null, by: 'readings' },
}

export const quantityOf = ({ kind }: YearSubject): YearQuantity => (kind === 'swr' ? asSwr : inDb)

const kHz = (v: number) => `${decimals(v / 1e3, Math.abs(v) < 1e4 ? 1 : 0)}\u00a0kHz`
const MHz = (v: number) => `${decimals(v / 1e6, 2)}\u00a0MHz`
const inKhz: Pick<YearQuantity, 'slope' | 'by'> = {
  slope: (perYear) => signed(perYear, kHz),
  by: 'sweeps',
}

/** Where the far end is moves by no more than an analyser may be off, but where it is cut: that a sweep says by itself. */
type YearFigure = Exclude<SweepFigureName, 'end'>

/** Of a figure of a sweep. */
function sweepQuantity(name: YearFigure): YearQuantity {
  switch (name) {
    case 'dip':
      return {
        ...inKhz,
        ...{ shown: (v) => v / 1e6, figure: MHz, axis: (v) => decimals(v, 2) },
        moved: (by) => `${kHz(Math.abs(by))} ${by > 0 ? 'higher' : 'lower'} than`,
      }
    case 'bandwidth':
      return {
        ...inKhz,
        ...{ shown: (v) => v / 1e3, figure: kHz, axis: (v) => decimals(v, 0) },
        moved: (by) => `${kHz(Math.abs(by))} ${by > 0 ? 'wider' : 'narrower'} than`,
      }
    case 'swr':
      return { ...asSwr, by: 'sweeps' }
    case 'loss':
      return { ...inDb, axis: (v) => decimals(v, 2), by: 'sweeps' }
  }
}

/** What a record says, in a sentence. */
export function yearStory({ points, change, trend }: YearRecord, say: YearQuantity): string {
  const last = points.at(-1)!
  const now = say.figure(last.value)
  if (change) {
    const moved = say.moved(change.by, last.value - change.by)
    const since =
      change.since === null ? 'Gradual drift.' : `Step change, seen by ${dayText(change.since)}.`
    return `${now}: ${moved} ${longAgoWords(change.comparedWith, last.at)}. ${since}`
  }
  const before = points.at(-2)
  const then = before && points.length < LEAST_JUDGED ? `, ${say.figure(before.value)} before` : ''
  if (!trend) return `${now} last${then}. Too few ${say.by} for a trend.`
  if (!say.slope) return then ? `${now} last${then}.` : `${now} last; steady.`
  const slope = `${say.slope(trend.slope)} a year (${say.slope(trend.low)} to ${say.slope(trend.high)})`
  if (points.length < LEAST_JUDGED)
    return trend.drifts
      ? `${now} last; it drifts, ${slope}.`
      : `${now} last; ${slope}; too few ${say.by} to call it a drift.`
  return trend.drifts
    ? `${now} last; ${slope}, too little to act on yet.`
    : `${now} last; no drift, ${slope}.`
}

/** A dip this near to a channel, as a share of it, is about it. */
const NEAR_CHANNEL = 0.15

/** Records of the sweeps of a chain that speak of a channel, or of no frequency, each with its title. */
export function sweepYears(
  sweeps: readonly LineSweepSummary[],
  channelHz: number,
): { title: string; record: SweepRecord; quantity: YearQuantity }[] {
  return sweepGroups(sweeps).flatMap(({ place, farEnd, records }) =>
    records.flatMap((record) => {
      const { name, nearHz, points } = record
      const near = nearHz === null || Math.abs(nearHz / channelHz - 1) <= NEAR_CHANNEL
      return near && name !== 'end' && telling(farEnd, name) && points.length > 1
        ? [
            {
              title: `${recordTitle(name, nearHz)}, ${place}`,
              record,
              quantity: sweepQuantity(name),
            },
          ]
        : []
    }),
  )
}

function recordTitle(name: YearFigure, nearHz: number | null): string {
  const at = nearHz === null ? '' : MHz(nearHz)
  switch (name) {
    case 'dip':
      return `Dip of the SWR near ${at}`
    case 'swr':
      return `Least SWR near ${at}`
    case 'bandwidth':
      return `Band up to SWR 2 near ${at}`
    case 'loss':
      return 'Loss over what was expected'
  }
}
