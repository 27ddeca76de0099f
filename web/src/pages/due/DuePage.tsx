import { dayText, type Duty, type Station } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { Plus } from 'lucide-react'
import { useState } from 'react'
import { useParams } from 'react-router'
import { beyondYear, dutiesSentence, yearByMonth } from '../../model/duties.ts'
import { dutiesQuery, offeredDutiesQuery } from '../../platform/api/dutyQueries.ts'
import { stationQuery } from '../../platform/api/queries.ts'
import { today as todayHere } from '../../platform/today.ts'
import { Page } from '../../shell/Page.tsx'
import { Trouble } from '../../shell/Trouble.tsx'
import { CalendarAddress } from './CalendarAddress.tsx'
import { DutyDialog } from '../../duties/DutyDialog.tsx'
import { DutyRow } from '../../duties/DutyRow.tsx'
import { Offers } from './Offers.tsx'

/** What has to be done again and again: the year by the month, what ships and is offered, and the calendar. */
export function DuePage() {
  const { stationId } = useParams() as { stationId: string }
  const { data: station, error } = useQuery(stationQuery(stationId))
  const { data: duties, error: noDuties } = useQuery(dutiesQuery(stationId))
  const { data: offers, isPending: noOffers } = useQuery(offeredDutiesQuery(stationId))
  const trouble = error ?? noDuties
  if (trouble) return <Trouble error={trouble} />
  return (
    <Page title="What is due" stationId={stationId}>
      {station && duties && !noOffers && (
        <div className="mx-auto w-full max-w-5xl px-5 py-5 max-sm:px-3">
          <Year station={station} duties={duties} />
          <div className="mt-8 grid gap-x-8 gap-y-6 md:grid-cols-2">
            <Offers stationId={stationId} offers={offers ?? []} />
            <CalendarAddress stationId={stationId} />
          </div>
        </div>
      )}
    </Page>
  )
}

function Year({ station, duties }: { station: Station; duties: readonly Duty[] }) {
  const [adding, setAdding] = useState(false)
  const today = todayHere()
  const months = yearByMonth(duties, today)
  const beyond = beyondYear(duties, today)
  const row = (duty: Duty) => (
    <DutyRow key={duty.id} stationId={station.id} duty={duty} today={today} />
  )
  return (
    <>
      <header className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <div>
          <h2 className="text-xl font-bold">What is due</h2>
          <p className="text-sm text-muted">{station.name}</p>
        </div>
        <p role="status" className="text-base">
          {dutiesSentence(duties, today)}
        </p>
      </header>
      <button type="button" className="button mt-3" onClick={() => setAdding(true)}>
        <Plus size={14} aria-hidden /> New duty
      </button>
      {adding && <DutyDialog stationId={station.id} onClose={() => setAdding(false)} />}
      {duties.length === 0 && (
        <p className="mt-4 text-muted">
          Nothing has to be done again yet. Add what is offered below, or one of your own.
        </p>
      )}
      {months.map(({ month, name, occurrences }) => {
        const next = occurrences.filter((each) => each.next)
        const then = occurrences.filter((each) => !each.next)
        if (occurrences.length === 0) return null
        return (
          <section key={month} aria-label={name} className="mt-5">
            <h3 className="border-b border-ink pb-1 font-bold">{name}</h3>
            <ul>{next.map(({ duty }) => row(duty))}</ul>
            {then.length > 0 && (
              <p className="py-1.5 text-sm text-muted">
                Then again:{' '}
                {then.map(({ duty, day }) => `${duty.title} (${dayText(day)})`).join(', ')}
              </p>
            )}
          </section>
        )
      })}
      {beyond.length > 0 && (
        <section aria-label="Later" className="mt-5">
          <h3 className="border-b border-ink pb-1 font-bold">Later, or after an event</h3>
          <ul>{beyond.map(row)}</ul>
        </section>
      )}
    </>
  )
}
