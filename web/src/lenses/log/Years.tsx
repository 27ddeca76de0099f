import { ChartView } from '../../ui/chart/ChartView.tsx'
import { yearChart } from './yearChart.ts'
import { errorText } from '../../platform/errorText.ts'
import { actOnRecord } from '../../platform/wayBack.ts'
import { type ChainDocument, dayText, placesOf, type StationEvent } from '@saltline/contract'
import { today } from '../../platform/today.ts'
import { formatFrequency, type YearRecord, type YearSeries, yearSeries } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { Trash2 } from 'lucide-react'
import { useMemo, useState } from 'react'
import {
  addEvent,
  eventsQuery,
  meterUsesQuery,
  putBackIntoLog,
  removeFromLog,
  yearsQuery,
} from '../../platform/api/logQueries.ts'
import { joinInChange, joinsOf, type MeterJoin } from '../../model/meterJoins.ts'
import { quantityOf, sweepYears, type YearQuantity, yearStory } from '../../model/yearWords.ts'
import { lineSweepsQuery } from '../../platform/api/lineSweepQueries.ts'
import type { LensProps } from '../../editor/lens.ts'
import { Problem } from '../../ui/Problem.tsx'

/** Losses, power and SWR of a channel over the years, with what happened when. */
export default function Years({ chainId, document, channel }: LensProps) {
  const { data: rows } = useQuery(yearsQuery(chainId, channel.id))
  const { data: events = [] } = useQuery(eventsQuery(chainId))
  const { data: uses = [] } = useQuery(meterUsesQuery(chainId, channel.id))
  const series = useMemo(
    () =>
      rows &&
      yearSeries(
        rows.map(({ roundId, at, ...row }) => ({ ...row, round: roundId, at: Date.parse(at) })),
        placesOf(document).map(({ before }) => before),
      ),
    [rows, document],
  )
  if (!series) return null
  return (
    <div className="px-5 py-3">
      {series.length === 0 ? (
        <p className="py-8 text-center text-muted">
          No readings on {formatFrequency(channel.frequencyHz)} yet. Readings at two places on one
          day show what lies between them; a session every month shows how it ages.
        </p>
      ) : (
        <div className="grid gap-x-6 gap-y-4 two:grid-cols-2">
          {changedFirst(series).map((each) => (
            <YearPanel
              key={subjectKey(each)}
              title={titleOf(each, document)}
              record={each}
              quantity={quantityOf(each.subject)}
              events={events}
              joins={joinsOf(each, uses)}
            />
          ))}
        </div>
      )}
      <BySweeps chainId={chainId} channelHz={channel.frequencyHz} events={events} />
      <Events chainId={chainId} events={events} />
    </div>
  )
}

/** The same of what an analyser saw, of this channel or of the line. */
function BySweeps({
  chainId,
  channelHz,
  events,
}: {
  chainId: string
  channelHz: number
  events: readonly StationEvent[]
}) {
  const { data: kept } = useQuery(lineSweepsQuery(chainId))
  const records = useMemo(() => sweepYears(kept ?? [], channelHz), [kept, channelHz])
  if (records.length === 0) return null
  return (
    <section aria-label="By sweeps" className="mt-5 border-t border-rule pt-3">
      <p className="mb-2 text-sm text-muted">What an analyser saw:</p>
      <div className="grid gap-x-6 gap-y-4 two:grid-cols-2">
        {records.map((each) => (
          <YearPanel key={each.title} {...each} events={events} />
        ))}
      </div>
    </section>
  )
}

/** What asks for attention stands first. */
const changedFirst = (series: readonly YearSeries[]): YearSeries[] => [
  ...series.filter(({ change }) => change),
  ...series.filter(({ change }) => !change),
]

const subjectKey = ({ subject }: YearSeries): string => JSON.stringify(subject)

function titleOf({ subject }: YearSeries, document: ChainDocument): string {
  const places = placesOf(document)
  const name = (before: string) =>
    places.find((place) => place.before === before)?.name ?? `input of ${before}`
  if (subject.kind === 'power') return `Power ${name(subject.at)}, over what was expected`
  if (subject.kind === 'swr') return `SWR ${name(subject.at)}`
  const from = places.find(({ before }) => before === subject.from)?.plane ?? 0
  const to = places.find(({ before }) => before === subject.to)?.plane ?? document.stages.length
  const stages = document.stages.slice(from, to).map((stage) => stage.name)
  return `Loss of ${stages.join(', ')}`
}

const NONE: readonly MeterJoin[] = []

function YearPanel({
  title,
  record,
  quantity,
  events,
  joins = NONE,
}: {
  title: string
  record: YearRecord
  quantity: YearQuantity
  events: readonly StationEvent[]
  joins?: readonly MeterJoin[]
}) {
  const chart = useMemo(
    () => yearChart(record, quantity, events, joins, title),
    [record, quantity, events, joins, title],
  )
  return (
    <section aria-label={title}>
      <h2 className="text-sm font-bold">{title}</h2>
      <p className="text-sm text-muted">
        {yearStory(record, quantity)}
        {joins.length > 0 && (
          <> {joinText(joinInChange(record, joins) !== undefined, joins.at(-1)!)}</>
        )}
      </p>
      <div className="relative mt-1 h-44">
        <ChartView chart={chart} />
      </div>
    </section>
  )
}

/** A row that goes on with another meter is not one row. */
const joinText = (changed: boolean, { at, from, to }: MeterJoin): string =>
  `From ${dayText(at)} read with ${to}, before with ${from}: ${
    changed ? 'the change may be the meter’s.' : 'a step there would be unsure.'
  }`

function Events({ chainId, events }: { chainId: string; events: readonly StationEvent[] }) {
  const [on, setOn] = useState(today)
  const [text, setText] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const add = async () => {
    try {
      await addEvent({ chainId, on, text })
      setText('')
      setProblem(null)
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  return (
    <section aria-label="What happened" className="mt-5 max-w-2xl border-t border-rule pt-3">
      <h2 className="text-sm font-bold">What happened to this chain</h2>
      <ul className="my-1 text-sm">
        {events.map(({ id, on: day, text: what }) => (
          <li key={id} className="flex items-center gap-3 border-b border-rule">
            <span className="w-28 text-muted">{dayText(day)}</span>
            <span className="flex-1">{what}</span>
            <button
              type="button"
              className="quiet"
              aria-label={`Delete ${what}`}
              onClick={() =>
                void actOnRecord(async () => {
                  await removeFromLog('events', id)
                  return { said: `Deleted: ${what}`, undo: () => putBackIntoLog('events', id) }
                })
              }
            >
              <Trash2 size={14} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          void add()
        }}
      >
        <label className="text-xs text-muted">
          On
          <input
            type="date"
            required
            className="field mt-0.5 text-sm"
            value={on}
            onChange={({ target }) => setOn(target.value)}
          />
        </label>
        <label className="min-w-48 flex-1 text-xs text-muted">
          What: a new connector, a storm, water found
          <input
            className="field mt-0.5 text-sm"
            required
            maxLength={80}
            value={text}
            onChange={({ target }) => setText(target.value)}
          />
        </label>
        <button type="submit" className="button">
          Mark it
        </button>
      </form>
      <Problem text={problem} />
    </section>
  )
}
