import { type Alert, dayText, type Station } from '@saltline/contract'
import { useQueries, useQuery } from '@tanstack/react-query'
import { Plus } from 'lucide-react'
import { Link, useParams } from 'react-router'
import { hasDraft } from '../../editor/drafts.ts'
import { alertsQuery, lastRoundsQuery } from '../../platform/api/logQueries.ts'
import { dutiesQuery } from '../../platform/api/dutyQueries.ts'
import { stationQuery } from '../../platform/api/queries.ts'
import { runsQuery } from '../../platform/api/runQueries.ts'
import { Page } from '../../shell/Page.tsx'
import { Trouble } from '../../shell/Trouble.tsx'
import { Backup } from './Backup.tsx'
import { Bin } from './Bin.tsx'
import { backupStateQuery } from '../../platform/api/backupQueries.ts'
import { ChainCard } from './ChainCard.tsx'
import { stateText } from './stateText.ts'
import { DueNow } from './DueNow.tsx'
import { Files } from './Files.tsx'
import { StationSettings } from './StationSettings.tsx'
import { type BoardChain, useBoard } from './useBoard.ts'

/** The board: is the station well? Every chain at a glance, then its record, settings, bin and backup. */
export function StationPage() {
  const { stationId } = useParams() as { stationId: string }
  const { data: station, error } = useQuery(stationQuery(stationId))
  if (error) return <Trouble error={error} />
  return (
    <Page title={station?.name ?? 'Station'} stationId={stationId}>
      {station && <Board station={station} />}
    </Page>
  )
}

function Board({ station }: { station: Station }) {
  const { data: alerts = NONE, isPending: noAlerts } = useQuery(alertsQuery(station.id))
  const { data: sessions = [], isPending: noSessions } = useQuery(lastRoundsQuery(station.id))
  const runs = useQueries({ queries: station.chains.map(({ id }) => runsQuery(id)) })
  const { data: duties, isPending: noDuties } = useQuery(dutiesQuery(station.id))
  const board = useBoard(station)
  // Nothing is said of a chain before it is known, and nothing moves when it is.
  if (
    noDuties ||
    noAlerts ||
    noSessions ||
    runs.some(({ isPending }) => isPending) ||
    !board.every(isThere)
  )
    return null
  return (
    <div className="mx-auto max-w-6xl space-y-6 px-5 py-5 max-sm:px-3">
      <header className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <div>
          <h2 className="text-xl font-bold">{station.name}</h2>
          <p className="text-sm text-muted">{station.place}</p>
        </div>
        <p role="status" className="text-base max-sm:min-h-12">
          {stateText(board, alerts, sessions.length > 0)}
        </p>
      </header>
      <Unkept />
      <section aria-label="Chains">
        <h2 className="sr-only">Chains</h2>
        <div className="grid gap-4 lg:grid-cols-2">
          {board.map((own, k) => (
            <ChainCard
              key={own.id}
              stationId={station.id}
              own={own}
              alerts={alerts.filter(({ chainId }) => chainId === own.id)}
              session={sessions.find(({ chainId }) => chainId === own.id)}
              unfinished={runs[k]?.data?.filter(({ outcome }) => outcome === 'running') ?? []}
              unsaved={hasDraft(own.id)}
            />
          ))}
        </div>
        <Link className="button mt-3" to={`/station/${station.id}/new-chain`}>
          <Plus size={14} aria-hidden /> New chain
        </Link>
      </section>
      {duties && <DueNow stationId={station.id} duties={duties} />}
      <div className="grid gap-x-8 gap-y-6 md:grid-cols-2">
        <Files station={station} />
        <StationSettings station={station} />
        <Backup />
        <Bin stationId={station.id} />
      </div>
    </div>
  )
}

/** What is not being kept is said first. */
function Unkept() {
  const { data } = useQuery(backupStateQuery)
  if (!data || (data.problem === null && !data.overdue)) return null
  return (
    <p role="alert" className="border-l-4 border-danger pl-3 text-danger">
      ▲{' '}
      {data.problem === null
        ? 'No copy of the database was made'
        : 'The database could not be copied'}
      {data.lastAt ? ` since ${dayText(data.lastAt)}` : ' yet'}
      {data.problem !== null && `: ${data.problem}`}. Look whether there is room in {data.folder},
      and whether it can be written to.
    </p>
  )
}

const NONE: readonly Alert[] = []

const isThere = ({ document, chain, problem }: BoardChain): boolean =>
  (document !== null && chain !== null) || problem !== null
