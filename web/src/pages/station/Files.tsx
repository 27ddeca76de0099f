import { address } from '../../platform/base.ts'
import { dayText, type Station } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { measurementsQuery, readingsQuery } from '../../platform/api/logQueries.ts'
import { titleOf } from '../../worksheets/sheets/index.ts'

/** The record as files, and the newest sheets of the bench. */
export function Files({ station: { id: stationId } }: { station: Station }) {
  const { data: kept = [] } = useQuery(measurementsQuery(stationId))
  const { data: page } = useQuery(readingsQuery(stationId, { limit: 1 }))
  return (
    <section aria-label="Record">
      <h2 className="border-b border-ink pb-1 font-bold">Record</h2>
      <p className="py-1.5 text-sm">
        {page
          ? `${page.total.toLocaleString('en-GB')} ${page.total === 1 ? 'reading' : 'readings'}`
          : '…'}
        :{' '}
        <a className="link" href={address(`/api/stations/${stationId}/log.csv`)} download>
          CSV
        </a>
        ,{' '}
        <a className="link" href={address(`/api/stations/${stationId}/log.json`)} download>
          JSON
        </a>
        ; or{' '}
        <a className="link" href={address(`/api/stations/${stationId}/file`)} download>
          the whole station as one file
        </a>
      </p>
      {kept.slice(0, 5).map(({ id, kind, title, measuredAt }) => (
        <p key={id} className="flex gap-3 border-t border-rule py-1 text-sm">
          <span className="w-24 text-muted">{dayText(measuredAt)}</span>
          <Link className="link flex-1" to={`/station/${stationId}/bench?sheet=${kind}&from=${id}`}>
            {titleOf(kind)}: {title}
          </Link>
        </p>
      ))}
    </section>
  )
}
