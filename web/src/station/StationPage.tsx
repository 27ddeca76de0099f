import type { Alert, Station } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { alertsQuery, measurementsQuery, readingsQuery } from '../api/logQueries.ts'
import { createChain, stationQuery } from '../api/queries.ts'
import { act } from '../app/act.ts'
import { Page } from '../app/Page.tsx'
import { Trouble } from '../app/Trouble.tsx'
import { titleOf } from '../bench/sheets/index.ts'
import { chainAddress } from '../chain/useChainAddress.ts'
import { chainOfDraft, firstDraft } from '../newStation/draft.ts'
import { dayText } from '../lenses/log/places.ts'
import { Backup } from './Backup.tsx'
import { Bin } from './Bin.tsx'
import { StationSettings } from './StationSettings.tsx'

const AlertChart = lazy(() => import('./AlertChart.tsx'))

/** The station's home: what asks for attention, its chains, its record, its safe keeping. */
export function StationPage() {
  const { stationId } = useParams() as { stationId: string }
  const { data: station, error } = useQuery(stationQuery(stationId))
  if (error) return <Trouble error={error} />
  return (
    <Page title={station?.name ?? 'Station'} stationId={stationId}>
      {station && <Home station={station} />}
    </Page>
  )
}

function Home({ station }: { station: Station }) {
  const { data: alerts } = useQuery(alertsQuery(station.id))
  const { data: kept = [] } = useQuery(measurementsQuery(station.id))
  const { data: page } = useQuery(readingsQuery(station.id, { limit: 1 }))
  const newest = page?.readings[0]
  const navigate = useNavigate()
  const begin = () =>
    act(async () => {
      const chain = await createChain(station.id, chainOfDraft(firstDraft))
      await navigate(chainAddress(station.id, chain.id))
    })
  return (
    <div className="mx-auto grid max-w-6xl gap-x-10 gap-y-6 px-5 py-5 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <section aria-label="What asks for attention">
        <h2 className="text-xl font-bold">{station.name}</h2>
        <p className="mb-4 text-sm text-muted">{station.place}</p>
        {alerts?.length === 0 && (
          <p role="status" className="text-[18px]">
            {newest
              ? 'Nothing in the record asks for attention.'
              : 'No readings yet. A round of readings every month shows how a station ages.'}
          </p>
        )}
        <ul>
          {alerts?.map((alert) => (
            <AlertLine
              key={`${alert.chainId} ${alert.kind} ${alert.what}`}
              stationId={station.id}
              alert={alert}
            />
          ))}
        </ul>
      </section>
      <div className="space-y-6">
        <section aria-label="Chains">
          <h2 className="border-b border-ink pb-1 font-bold">Chains</h2>
          <ul>
            {station.chains.map(({ id, name }) => (
              <li
                key={id}
                className="flex items-baseline justify-between gap-3 border-b border-rule py-1.5"
              >
                <Link className="link" to={chainAddress(station.id, id)}>
                  {name}
                </Link>
                <Link className="quiet text-sm" to={chainAddress(station.id, id, 'log')}>
                  enter a reading
                </Link>
              </li>
            ))}
          </ul>
          <button type="button" className="link mt-1.5 text-sm" onClick={() => void begin()}>
            new chain
          </button>
        </section>
        <section aria-label="Record">
          <h2 className="border-b border-ink pb-1 font-bold">Record</h2>
          <p className="py-1.5 text-sm">
            {page ? `${page.total.toLocaleString('en-GB')} readings` : '…'}
            {newest && `, the last one on ${dayText(newest.readAt)}, ${newest.place}`}.{' '}
            <a className="link" href={`/api/stations/${station.id}/log.csv`} download>
              CSV
            </a>
            ,{' '}
            <a className="link" href={`/api/stations/${station.id}/log.json`} download>
              JSON
            </a>
            ; or{' '}
            <a className="link" href={`/api/stations/${station.id}/file`} download>
              the whole station as one file
            </a>
          </p>
          {kept.slice(0, 5).map(({ id, kind, title, measuredAt }) => (
            <p key={id} className="flex gap-3 border-t border-rule py-1 text-sm">
              <span className="w-24 text-muted">{dayText(measuredAt)}</span>
              <Link
                className="link flex-1"
                to={`/station/${station.id}/bench?sheet=${kind}&from=${id}`}
              >
                {titleOf(kind)}: {title}
              </Link>
            </p>
          ))}
        </section>
        <StationSettings station={station} />
        <Bin stationId={station.id} />
        <Backup />
      </div>
    </div>
  )
}

function AlertLine({ stationId, alert }: { stationId: string; alert: Alert }) {
  const { chainId, chain, kind, text, since, channelId } = alert
  const to = `${chainAddress(stationId, chainId, 'log')}?${new URLSearchParams({
    leaf: kind === 'outside' ? 'round' : 'years',
    ...(channelId && { channel: channelId }),
  })}`
  return (
    <li className="border-b border-rule py-2.5">
      <Link to={to} className="group block">
        <span
          className={`text-[17px] leading-snug group-hover:underline ${kind === 'outside' ? '' : 'text-danger'}`}
        >
          {kind === 'outside' ? '' : '▲ '}
          {text}
        </span>
        <span className="block text-sm text-muted">
          {chain}
          {since && kind !== 'outside' && `, since about ${dayText(since)}`}
          {since && kind === 'outside' && `, read on ${dayText(since)}`}
        </span>
      </Link>
      {kind !== 'outside' && channelId !== null && (
        <Suspense>
          <div className="mt-2">
            <AlertChart alert={{ ...alert, channelId }} />
          </div>
        </Suspense>
      )}
    </li>
  )
}
