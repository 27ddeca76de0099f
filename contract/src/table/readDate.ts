/** The one reader of written dates. */
import { addHours, isValid, parse, parseISO, startOfDay } from 'date-fns'

/** What `05/04/2026` is: the fifth of April, or the fourth of May. */
export type DateOrder = 'day first' | 'month first'

export interface ReadDate {
  at: Date
  /** Whether day and month could be the other way round. */
  either: boolean
  /** Whether it says a time of day, too. */
  timed: boolean
}

const TIMES = [' H:mm', ' H:mm:ss', ' HHmm', ' h:mm a', ' h:mm:ss a']
const NAMED = ['d MMM yyyy', 'd MMMM yyyy', 'MMM d, yyyy', 'MMMM d, yyyy', 'MMM d yyyy']

/**
 * Reads a date with or without a time, in the zone of this computer unless the text names another
 * (`Z`, `+02:00`). A day without a time is taken at noon, so that it is the same day everywhere near.
 *
 * Understood: `2026-04-18`, `2026-04-18 09:30`, ISO 8601 with a zone, `18.4.2026`, `18/4/2026`,
 * `4/18/2026 9:30 AM`, `18 Apr 2026`, a time of day as `09:30`, `0930` or `9:30 AM`. Dots always have the
 * day first.
 *
 * @param order of slashed dates whose two figures could both be a month
 * @param utc whether a text that names no zone is in UTC
 * @returns null where it is no date
 */
export function readDate(text: string, order: DateOrder, utc = false): ReadDate | null {
  const zoned = /^\d{4}-\d{2}-\d{2}[T ].*(Z|[+-]\d{2}(:?\d{2})?)$/.test(text.trim())
  const read = readHere(text, order)
  // A day without a time stays the day that was written.
  return read && utc && read.timed && !zoned ? { ...read, at: wallClockInUtc(read.at) } : read
}

/** The same figures on the clock, read as UTC instead of the zone of this computer. */
const wallClockInUtc = (at: Date): Date => new Date(at.getTime() - at.getTimezoneOffset() * 60_000)

function readHere(text: string, order: DateOrder): ReadDate | null {
  const clean = text.trim().replace(/\s+/g, ' ')
  if (clean === '' || clean.length > 40) return null
  if (/^\d{4}-\d{1,2}-\d{1,2}$/.test(clean)) return dayOnly(clean, 'yyyy-M-d')
  if (/^\d{4}-\d{2}-\d{2}[T ]/.test(clean)) {
    const at = parseISO(clean.replace(' ', 'T').replace(/ (?=[+-]\d|Z)/, ''))
    if (isValid(at) && at.getFullYear() > 1900) return { at, either: false, timed: true }
    return withTimes(clean, 'yyyy-MM-dd')
  }
  const numbered = /^(\d{1,2})([./-])(\d{1,2})\2(\d{4})(?: (.*))?$/.exec(clean)
  if (numbered) {
    const [, first, sign, second] = numbered
    const months = [Number(first), Number(second)].map((figure) => figure >= 1 && figure <= 12)
    const dayFirst =
      sign === '.' || !months[0] || (months[1] === true && order === 'day first' && months[0])
    const either = sign !== '.' && months[0]! && months[1]! && first !== second
    const pattern = dayFirst ? `d${sign}M${sign}yyyy` : `M${sign}d${sign}yyyy`
    const read = withTimes(clean, pattern)
    return read && { ...read, either }
  }
  for (const pattern of NAMED) {
    const read = withTimes(clean, pattern)
    if (read) return read
  }
  return null
}

function withTimes(text: string, pattern: string): ReadDate | null {
  for (const time of TIMES) {
    const at = parse(text, pattern + time, new Date(2000, 0, 1))
    if (isValid(at) && at.getFullYear() > 1900) return { at, either: false, timed: true }
  }
  return dayOnly(text, pattern)
}

function dayOnly(text: string, pattern: string): ReadDate | null {
  const at = parse(text, pattern, new Date(2000, 0, 1))
  return isValid(at) && at.getFullYear() > 1900
    ? { at: addHours(startOfDay(at), 12), either: false, timed: false }
    : null
}
