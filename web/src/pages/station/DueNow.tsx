import type { Duty } from '@saltline/contract'
import { Link } from 'react-router'
import { dueNow, dutiesSentence } from '../../model/duties.ts'
import { today as todayHere } from '../../platform/today.ts'
import { DutyRow } from '../../duties/DutyRow.tsx'

const SHOWN = 5

/** What is overdue, due, or soon so: the oldest first, one press from doing it. */
export function DueNow({ stationId, duties }: { stationId: string; duties: readonly Duty[] }) {
  const today = todayHere()
  const now = dueNow(duties, today)
  return (
    <section aria-label="What is due">
      <h2 className="flex items-baseline justify-between gap-4 border-b border-ink pb-1 font-bold">
        What is due
        <Link className="link text-sm font-normal" to={`/station/${stationId}/due`}>
          {now.length > SHOWN ? `all ${now.length}, and ` : ''}the year
        </Link>
      </h2>
      {now.length === 0 && (
        <p className="py-1.5 text-sm text-muted">{dutiesSentence(duties, today)}</p>
      )}
      <ul>
        {now.slice(0, SHOWN).map((duty) => (
          <DutyRow key={duty.id} stationId={stationId} duty={duty} today={today} brief />
        ))}
      </ul>
    </section>
  )
}
