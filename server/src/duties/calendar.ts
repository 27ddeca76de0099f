/** The duties of a station as a calendar (RFC 5545). */
import type { Duty } from '@saltline/contract'
import calendarOf from 'ical-generator'
import { dayAfter } from './due.ts'

/** Calendars look again about this often, s. */
const AGAIN_S = 6 * 3600

/**
 * Each duty is one event of a whole day, under an identity that stays: where the duty moves, its event moves. What is
 * overdue stands on today, so that it is seen.
 *
 * @param asked today's day where the operator is, when the calendar was asked for, and the address of the station's page
 * @returns the text of an .ics file
 */
export function calendarText(
  station: { id: string; name: string },
  duties: readonly Duty[],
  { today, now, page }: { today: string; now: Date; page: string },
): string {
  const calendar = calendarOf({
    name: `${station.name}: what is due`,
    prodId: { company: 'Salt Line', product: 'Duties', language: 'EN' },
    ttl: AGAIN_S,
  })
  for (const duty of duties) {
    if (duty.due === null) continue
    const overdue = duty.due < today
    const day = overdue ? today : duty.due
    const about = duty.chain ?? duty.thing
    calendar.createEvent({
      id: `${duty.id}@${station.id}.saltline`,
      // A whole day is told by its date alone; it is read in the zone of the machine.
      start: new Date(`${day}T12:00:00`),
      end: new Date(`${dayAfter(day)}T12:00:00`),
      allDay: true,
      stamp: now,
      summary: `${overdue ? 'Overdue: ' : ''}${duty.title}${about === null ? '' : ` (${about})`}`,
      description: [
        overdue ? `It was due on ${duty.due}.` : null,
        duty.because && `Reason: ${duty.because}.`,
        duty.last && `Last done on ${duty.last.on}.`,
        duty.note || null,
        page,
      ]
        .filter(Boolean)
        .join('\n'),
      url: page,
    })
  }
  return calendar.toString()
}
