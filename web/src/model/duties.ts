/** What is due, in words and by month. */
import {
  dayText,
  type Duty,
  type DutyBody,
  type DutyTask,
  type OfferedDuty,
} from '@saltline/contract'
import { addDays, addMonths, differenceInCalendarDays, format, parseISO } from 'date-fns'

/** So long before its day a duty is told on the board, days. */
const SOON_DAYS = 30

const daysUntil = (day: string, today: string): number =>
  differenceInCalendarDays(parseISO(day), parseISO(today))

/** How a duty stands today. */
export function standing(
  { due }: Pick<Duty, 'due'>,
  today: string,
): 'overdue' | 'due' | 'soon' | 'later' | 'waits' {
  if (due === null) return 'waits'
  const days = daysUntil(due, today)
  return days < 0 ? 'overdue' : days === 0 ? 'due' : days <= SOON_DAYS ? 'soon' : 'later'
}

/** As “overdue since 10 May 2026”, “due today”, “due in 12 days, on 3 June 2026”. */
export function dueWords(duty: Pick<Duty, 'due' | 'afterEvent'>, today: string): string {
  const { due, afterEvent } = duty
  if (due === null) return `after the next ${afterEvent ?? 'event'}`
  const days = daysUntil(due, today)
  if (days < 0) return `overdue since ${dayText(due)}`
  if (days === 0) return 'due today'
  if (days === 1) return 'due tomorrow'
  return days <= SOON_DAYS ? `due in ${days} days, on ${dayText(due)}` : `due on ${dayText(due)}`
}

/** As “every 12 months, and after a storm”. */
export function howOften({ months, afterEvent }: Pick<Duty, 'months' | 'afterEvent'>): string {
  const every =
    months === null
      ? null
      : months === 1
        ? 'every month'
        : months === 12
          ? 'every year'
          : `every ${months} months`
  const after = afterEvent === null ? null : `after “${afterEvent}” in the log`
  return [every, after].filter(Boolean).join(', and ')
}

/** One sentence for all of them. */
export function dutiesSentence(duties: readonly Duty[], today: string): string {
  const by = (wanted: string) => duties.filter((duty) => standing(duty, today) === wanted)
  const overdue = by('overdue')
  const now = by('due')
  if (overdue.length + now.length > 0) {
    const parts = [
      overdue.length > 0 && `${overdue.length} overdue`,
      now.length > 0 && `${now.length} due today`,
    ].filter(Boolean)
    return `${parts.join(', ')}.`
  }
  const next = duties.find(({ due }) => due !== null)
  return next ? `Nothing is due. Next: ${next.title}, ${dueWords(next, today)}.` : 'Nothing is due.'
}

/** What the board tells: what is overdue, due, or soon so, the oldest first. */
export const dueNow = (duties: readonly Duty[], today: string): Duty[] =>
  duties.filter((duty) => ['overdue', 'due', 'soon'].includes(standing(duty, today)))

export interface Occurrence {
  duty: Duty
  day: string
  /** The next time; later ones follow if each is done on its day. */
  next: boolean
}

export interface Month {
  /** As 2026-05. */
  month: string
  name: string
  occurrences: Occurrence[]
}

/** A year by the month, from this one: what is overdue stands in the first. */
export function yearByMonth(duties: readonly Duty[], today: string): Month[] {
  const first = parseISO(`${today.slice(0, 7)}-01`)
  const occurrences = duties
    .flatMap((duty) => [
      ...(duty.due === null ? [] : [{ duty, day: duty.due, next: true }]),
      ...duty.ahead.map((day) => ({ duty, day, next: false })),
    ])
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0))
  return Array.from({ length: 13 }, (_, k) => {
    const date = addMonths(first, k)
    const month = format(date, 'yyyy-MM')
    return {
      month,
      name: format(date, 'MMMM yyyy'),
      occurrences: occurrences.filter(({ day }) =>
        k === 0 ? day.slice(0, 7) <= month : day.slice(0, 7) === month,
      ),
    }
  })
}

/** What comes after the year, and what waits for an event. */
export const beyondYear = (duties: readonly Duty[], today: string): Duty[] => {
  const end = format(addMonths(parseISO(`${today.slice(0, 7)}-01`), 13), 'yyyy-MM')
  return duties.filter(({ due }) => due === null || due.slice(0, 7) >= end)
}

/** Where a duty is done; null for one of plain words, which is ticked. */
export function placeOf(
  stationId: string,
  { task, chainId, thingId }: Pick<Duty, 'task' | 'chainId' | 'thingId'>,
): string | null {
  const station = `/station/${stationId}`
  if (task.kind === 'sheet') return `${station}/chain/${chainId}/run?sheet=${task.sheetId}`
  if (task.kind === 'bench')
    return thingId === null
      ? `${station}/bench?sheet=${task.worksheet}`
      : `${station}/thing/${thingId}?measure=${task.worksheet}`
  if (task.kind === 'reading')
    return `${station}/chain/${chainId}/log${task.channelId === undefined ? '' : `?channel=${task.channelId}`}`
  return null
}

/** What the button says that leads there. */
export const doWords: Record<DutyTask['kind'], string> = {
  sheet: 'Run it',
  bench: 'Measure',
  reading: 'Read it',
  plain: 'Done',
}

/** Of what is offered or kept, what is sent. */
export const bodyOf = ({
  title,
  note,
  chainId,
  thingId,
  task,
  months,
  afterEvent,
  from,
  shipped,
}: DutyBody): DutyBody => ({
  ...{ title, note, chainId, thingId, task, months, afterEvent, from },
  ...(shipped !== undefined && { shipped }),
})

/** Offers of the same kind together, in the order in which they came. */
export const offersByKind = (offers: readonly OfferedDuty[]): OfferedDuty[][] =>
  [...new Set(offers.map(({ title }) => title))].map((kind) =>
    offers.filter(({ title }) => title === kind),
  )

/** The day that is offered where something is put off. */
export const inTwoWeeks = (today: string): string =>
  format(addDays(parseISO(today), 14), 'yyyy-MM-dd')
