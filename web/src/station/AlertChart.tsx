import type { Alert } from '@saltline/contract'
import { yearSeries } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { eventsQuery, yearsQuery } from '../api/logQueries.ts'
import { chainQuery } from '../api/queries.ts'
import { placesOf } from '../lenses/log/places.ts'
import { YearPanel } from '../lenses/log/Years.tsx'

/** The years behind an alert. */
export default function AlertChart({ alert }: { alert: Alert & { channelId: string } }) {
  const { chainId, channelId, kind, change } = alert
  const { data: state } = useQuery(chainQuery(chainId))
  const { data: rows } = useQuery(yearsQuery(chainId, channelId))
  const { data: events = [] } = useQuery(eventsQuery(chainId))
  const series = useMemo(
    () =>
      rows &&
      state &&
      yearSeries(
        rows.map(({ roundId, at, ...row }) => ({ ...row, round: roundId, at: Date.parse(at) })),
        placesOf(state.document).map(({ before }) => before),
      ).find((each) => each.subject.kind === kind && nearly(each.change?.by, change)),
    [rows, state, kind, change],
  )
  if (!series || !state) return null
  return <YearPanel series={series} document={state.document} events={events} />
}

/** The server looks back less far: its levels may differ by a hair. */
const nearly = (a: number | undefined, b: number): boolean =>
  a !== undefined && Math.abs(a - b) < 0.25 * Math.abs(b)
