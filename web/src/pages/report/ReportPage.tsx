import { type ChainState, clockText, dayText, type Reading, type Station } from '@saltline/contract'
import { useUnits } from '../../platform/preferences.ts'
import { decimals, formatPower, formatSwr, swrRead } from '@saltline/core'
import { causeAdvice, causeTitle } from '../../model/causeWords.ts'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { Link, useParams } from 'react-router'
import { roundQuery } from '../../platform/api/logQueries.ts'
import { chainOnPaperQuery, stationQuery, sweepQuery } from '../../platform/api/queries.ts'
import { Page } from '../../shell/Page.tsx'
import { Trouble } from '../../shell/Trouble.tsx'
import { PaperBar } from '../../ui/PaperBar.tsx'
import { chainOfDocument } from '../../model/answers.ts'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { Against } from '../../lenses/log/Against.tsx'
import { useDiagnosis } from '../../compute/useDiagnosis.ts'
import { shareText } from '../../model/share.ts'
import { caseOf } from '../../lenses/log/caseOf.ts'
import { useSweepsOf } from '../../lenses/log/useSweepsOf.ts'
import { instrumentFacts, instrumentsOf, onText } from '../../model/places.ts'

/** A measurement session, dated, for print. */
export function ReportPage() {
  const { stationId, chainId, roundId } = useParams() as Record<string, string>
  const { data: station, error: noStation } = useQuery(stationQuery(stationId!))
  const { data: state, error: noChain } = useQuery(chainOnPaperQuery(chainId!))
  const { data: round, error: noRound } = useQuery(roundQuery(roundId))
  const error = noStation ?? noChain ?? noRound
  if (error) return <Trouble error={error} />
  return (
    <Page title="Measurement report" stationId={stationId}>
      <div className="px-5 py-4">
        <PaperBar>
          <Link
            className="link mr-2 self-center"
            to={`${chainAddress(stationId!, chainId!, 'log')}?round=${roundId}`}
          >
            back to the log
          </Link>
        </PaperBar>
        {station && state && round && <Report station={station} state={state} round={round} />}
      </div>
    </Page>
  )
}

interface RoundData {
  startedAt: string
  lastAt: string
  note: string
  readings: Reading[]
}

function Report({
  station,
  state,
  round,
}: {
  station: Station
  state: ChainState
  round: RoundData
}) {
  const { document } = state
  const { readings, startedAt, lastAt, note } = round
  const weather = [...new Set(readings.map((r) => r.weather).filter(Boolean))]
  const by = [...new Set(readings.map((r) => r.by).filter(Boolean))]
  const supply = readings.flatMap((r) => (r.supplyV === null ? [] : [r.supplyV]))
  const used = instrumentsOf(station).filter(({ id }) =>
    readings.some((r) => r.instrumentId === id),
  )
  const outside = readings.filter(({ inside }) => !inside).length
  return (
    <article
      aria-label="Report"
      className="printable card always-day flex flex-col bg-sheet text-ink"
      style={{ width: '182mm' }}
    >
      <header className="flex items-end justify-between border-b-2 border-ink pb-1">
        <div>
          <p className="card-small text-muted">{station.name}: measurement session</p>
          <h2 className="card-title font-bold">{document.name}</h2>
        </div>
        <p className="card-small text-right">
          {dayText(startedAt)}, {clockText(startedAt)} to {clockText(lastAt)}
          <span className="block text-muted">
            {document.transmitter.name} to {document.load.name}, revision {state.revision}
          </span>
        </p>
      </header>
      <p className="mt-2">
        {readings.length} readings,{' '}
        {outside === 0 ? 'all as expected' : `${outside} outside the expected range`}
        {by.length > 0 && `; by ${by.join(', ')}`}
        {weather.length > 0 && `; ${weather.join(', ')}`}
        {supply.length > 0 &&
          `; supply ${decimals(Math.min(...supply), 1)} to ${decimals(Math.max(...supply), 1)}\u00a0V`}
        .
      </p>
      {note && <p className="mt-1">{note}</p>}
      <table className="mt-2 w-full text-left">
        <thead className="card-small text-muted">
          <tr className="border-b border-ink [&>th]:py-0.5 [&>th]:pr-2 [&>th]:font-normal">
            <th scope="col">where</th>
            <th scope="col">on</th>
            <th scope="col" className="text-right">
              forward
            </th>
            <th scope="col" className="text-right">
              expected, 5 to 95 %
            </th>
            <th scope="col" />
            <th scope="col" className="text-right">
              SWR
            </th>
            <th scope="col" className="text-right">
              expected
            </th>
            <th scope="col">with</th>
          </tr>
        </thead>
        <tbody>
          {readings.map((reading) => (
            <ReportRow key={reading.id} reading={reading} />
          ))}
        </tbody>
      </table>
      <Finding station={station} state={state} readings={readings} />
      <p className="card-small mt-3 text-muted">
        {used
          .map(
            ({ document: own }) =>
              `${own.name}: ${instrumentFacts(own)}${own.checkedOn ? `, checked ${dayText(own.checkedOn)}` : ', never checked'}`,
          )
          .join('. ')}
        {used.length > 0 && '. '}Expected figures are those of the chain when each reading was kept.
      </p>
    </article>
  )
}

function ReportRow({ reading: r }: { reading: Reading }) {
  const { power } = useUnits()
  const swr = swrRead(r)
  return (
    <tr className="border-b border-rule [&>td]:py-[0.8mm] [&>td]:pr-2">
      <td>
        {r.inside ? '' : '▲ '}
        {r.place}
        {r.note && <span className="card-small block text-muted">{r.note}</span>}
      </td>
      <td>{onText(r)}</td>
      <td className="text-right whitespace-nowrap">
        {r.forwardW === null ? '' : formatPower(r.forwardW, power)}
      </td>
      <td className="text-right whitespace-nowrap">
        {r.expectedW !== null &&
          `${formatPower(r.expectedW, power)}, ${formatPower(r.lowW!, power)} to ${formatPower(r.highW!, power)}`}
      </td>
      <td>
        {r.forwardW !== null && r.expectedW !== null && (
          <Against
            value={r.forwardW}
            low={r.lowW!}
            expected={r.expectedW}
            high={r.highW!}
            logarithmic
          />
        )}
      </td>
      <td className="text-right">{swr === null ? '' : formatSwr(swr)}</td>
      <td className="text-right">{r.expectedSwr === null ? '' : formatSwr(r.expectedSwr)}</td>
      <td>{r.instrument}</td>
    </tr>
  )
}

/** On paper no next reading is asked for. */
const NOWHERE: readonly null[] = []

/** What the readings come to, on the chain as it stands. */
function Finding({
  station,
  state,
  readings,
}: {
  station: Station
  state: ChainState
  readings: readonly Reading[]
}) {
  const { document } = state
  const sweepId = document.load.kind === 'antenna' ? document.load.sweepId : undefined
  const { data: sweep } = useQuery(sweepQuery(sweepId))
  const sweeps = useSweepsOf(state.id, readings)
  const made = useMemo(() => {
    const chain = chainOfDocument(document, sweep)
    return chain && caseOf(station, document, chain, readings, [], sweeps)
  }, [station, document, sweep, readings, sweeps])
  const { result: done, problem } = useDiagnosis(made?.kase ?? null, NOWHERE)
  if (!made) return null
  if (!done)
    return <p className="mt-3 text-muted">{problem ? `▲ ${problem}` : 'Diagnosis: computing…'}</p>
  const { explanations, explained } = done.diagnosis
  const likely = explanations.filter(
    ({ probability }, i) => i === 0 || (i < 3 && probability > 0.03),
  )
  return (
    <section className="mt-3">
      <h3 className="font-bold">Diagnosis</h3>
      {likely.map(({ cause, probability }, i) => (
        <p key={i}>
          {shareText(probability)}: {causeTitle(cause, made.names)}. {i === 0 && causeAdvice(cause)}
        </p>
      ))}
      {!explained && <p>▲ No single cause explains all readings.</p>}
    </section>
  )
}
