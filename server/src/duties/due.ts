/** When a duty is due: days of the calendar, months as calendars count them. */
import { addDays, addMonths, format } from 'date-fns'

/** What is known of a duty; every day is written as 2026-01-31. */
export interface Known {
  /** Null for what only follows an event. */
  months: number | null
  /** The day on which it is due for the first time, and from which events count. */
  from: string
  /** When it was last done. */
  last: string | null
  /** When the last event was that asks for it. */
  event: string | null
  /** Until when it was put off, and on which day that was said. */
  putOff: { until: string; said: string } | null
  /** The day by which the record asks for it sooner. */
  sooner: string | null
}

/**
 * The day so many months later, at most the last one of its month: 31 January and a month is 28 February.
 *
 * @example laterBy('2026-01-31', 1) // '2026-02-28'
 */
export const laterBy = (day: string, months: number): string =>
  // At noon no change of summer time moves a day.
  format(addMonths(new Date(`${day}T12:00:00`), months), 'yyyy-MM-dd')

/** The day after a day. */
export const dayAfter = (day: string): string =>
  format(addDays(new Date(`${day}T12:00:00`), 1), 'yyyy-MM-dd')

/** Null where nothing asks for it before its event. */
export function dueOn({ months, from, last, event, putOff, sooner }: Known): string | null {
  const byMonths = months === null ? null : last === null ? from : laterBy(last, months)
  const byEvent = event !== null && (last === null ? event >= from : event > last) ? event : null
  const bySooner = byMonths !== null && sooner !== null && last !== null ? sooner : null
  const [first = null] = [byMonths, byEvent, bySooner].filter((day) => day !== null).sort()
  // What was done, or happened, after it was put off counts anew.
  const stands =
    putOff !== null && (last === null || last < putOff.said) && !isNewer(byEvent, putOff)
  return first !== null && stands && putOff.until > first ? putOff.until : first
}

const isNewer = (event: string | null, { said }: { said: string }): boolean =>
  event !== null && event > said

/** The days after the next one on which it would be due within a year of today, each time done on its day. */
export function daysAhead(due: string | null, months: number | null, today: string): string[] {
  if (due === null || months === null) return []
  const begin = due < today ? today : due
  const end = laterBy(today, 12)
  const days: string[] = []
  for (let i = 1; laterBy(begin, i * months) <= end; i++) days.push(laterBy(begin, i * months))
  return days
}

/** The day of a moment where the operator is. */
export const dayIn = (zone: string, moment: Date): string =>
  new Intl.DateTimeFormat('sv-SE', { timeZone: zone }).format(moment)
