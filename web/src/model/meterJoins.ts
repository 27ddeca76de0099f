/** Where a row over the years goes on with another meter: what changes there may be the meter's. */
import type { MeterUse } from '@saltline/contract'
import type { YearSeries } from '@saltline/core'

export interface MeterJoin {
  /** First reading with the other meter, ms. */
  at: number
  from: string
  to: string
}

/** The places that a row is read at. */
const placesOfSubject = ({ subject }: Pick<YearSeries, 'subject'>): string[] =>
  subject.kind === 'loss' ? [subject.from, subject.to] : [subject.at]

/** Joins of a row, in the order of time: a meter that was read to the end, and one that was read only from then on. */
export function joinsOf(
  series: Pick<YearSeries, 'subject'>,
  uses: readonly MeterUse[],
): MeterJoin[] {
  return placesOfSubject(series)
    .flatMap((place) => {
      const here = uses
        .filter(({ before }) => before === place)
        .toSorted((a, b) => a.from.localeCompare(b.from))
      return here.flatMap((use, i): MeterJoin[] => {
        const last = here[i - 1]
        return last && last.to < use.from
          ? [{ at: Date.parse(use.from), from: last.instrument, to: use.instrument }]
          : []
      })
    })
    .toSorted((a, b) => a.at - b.at)
}

/** The join that the change of a row may come from: between what it is compared with and now. */
export const joinInChange = (
  { change, points }: Pick<YearSeries, 'change' | 'points'>,
  joins: readonly MeterJoin[],
): MeterJoin | undefined => {
  const last = points.at(-1)
  return change && last
    ? joins.findLast(({ at }) => at > change.comparedWith && at <= last.at)
    : undefined
}
