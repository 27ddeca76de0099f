import type { ChainState, Measurement, Station } from '@saltline/contract'
import { useQueries, useQuery, type UseQueryResult } from '@tanstack/react-query'
import { Link, useParams, useSearchParams } from 'react-router'
import { chainQuery, stationQuery } from '../../platform/api/queries.ts'
import { measurementsQuery } from '../../platform/api/logQueries.ts'
import { Page } from '../../shell/Page.tsx'
import { Trouble } from '../../shell/Trouble.tsx'
import { Sheet } from './Sheet.tsx'
import { type AnyWorksheet, worksheetOf, worksheets } from '../../worksheets/sheets/index.ts'
import { cableSubjects, subjectsOf } from './subjects.ts'
import type { Subject } from '../../worksheets/worksheet.ts'

/** Null until all chains have arrived: a sheet fills its fields from what it is about. */
const subjectsOfAll = (chains: UseQueryResult<ChainState>[]): Subject[] | null =>
  chains.some(({ data, error }) => !data && !error)
    ? null
    : chains.flatMap(({ data }) => (data ? subjectsOf(data.id, data.document) : []))

/** The bench: a small laboratory for every measurement that the job needs. */
export function BenchPage() {
  const { stationId } = useParams() as { stationId: string }
  const { data: station, error } = useQuery(stationQuery(stationId))
  const { data: kept } = useQuery(measurementsQuery(stationId))
  const asked = useSearchParams()[0].get('sheet')
  const sheet = asked === null ? worksheets[0]! : worksheetOf(asked)
  if (error) return <Trouble error={error} />
  if (!sheet)
    return <Trouble error={new Error(`There is no worksheet “${asked}”: see the address.`)} />
  return (
    <Page title={`${sheet.title}, Bench`} stationId={stationId}>
      {station && kept && <Laboratory station={station} kept={kept} sheet={sheet} />}
    </Page>
  )
}

function Laboratory({
  station,
  kept,
  sheet,
}: {
  station: Station
  kept: readonly Measurement[]
  sheet: AnyWorksheet
}) {
  const [search, setSearch] = useSearchParams()
  const subjects = useQueries({
    queries: station.chains.map(({ id }) => chainQuery(id)),
    combine: subjectsOfAll,
  })
  const about = search.get('about')
  const all = subjects && [...subjects, ...cableSubjects(station)]
  const subject = all?.find(({ key }) => key === about) ?? null
  const from = kept.find(({ id, kind }) => id === search.get('from') && kind === sheet.kind)
  const put = (change: Record<string, string | null>) =>
    setSearch((old) => {
      const next = new URLSearchParams(old)
      for (const [key, value] of Object.entries(change))
        if (value === null) next.delete(key)
        else next.set(key, value)
      return next
    })
  return (
    <div className="grid lg:min-h-[calc(100vh-45px)] lg:grid-cols-[224px_minmax(0,1fr)]">
      <nav
        aria-label="Worksheets"
        className="border-rule bg-paper py-2 max-lg:flex max-lg:overflow-x-auto lg:border-r"
      >
        {worksheets.map(({ kind, title, purpose }) => (
          <Link
            key={kind}
            to={`?sheet=${kind}${about ? `&about=${about}` : ''}`}
            aria-current={kind === sheet.kind ? 'page' : undefined}
            className={`block px-4 py-1.5 max-lg:whitespace-nowrap ${
              kind === sheet.kind
                ? 'bg-sheet font-bold shadow-[inset_3px_0_0_var(--tide)]'
                : 'text-muted hover:text-ink'
            }`}
          >
            {title}
            <span className="block text-xs font-normal text-muted max-lg:hidden">{purpose}</span>
          </Link>
        ))}
      </nav>
      {all && (
        <Sheet
          key={`${sheet.kind} ${from?.id ?? ''}`}
          sheet={sheet}
          station={station}
          subjects={all}
          subject={subject}
          from={from}
          kept={kept.filter(({ kind }) => kind === sheet.kind)}
          onSubject={(id) => put({ about: id, from: null })}
          onFrom={({ id, chainId, stageId }) =>
            put({ from: id, about: chainId && stageId ? `${chainId}/${stageId}` : null })
          }
        />
      )}
    </div>
  )
}
