import {
  dayText,
  type Station,
  type Thing,
  type ThingHistory,
  worksheetKinds,
} from '@saltline/contract'
import { formatFrequency } from '@saltline/core'
import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { driftWords, sweepFacts } from '../../model/lineSweeps.ts'
import { lossWords } from '../../model/things.ts'
import { useUnits } from '../../platform/preferences.ts'
import { ChartView } from '../../ui/chart/ChartView.tsx'
import { titleOf } from '../../worksheets/sheets/index.ts'
import { withRange } from '../../worksheets/worksheet.ts'
import { lossChart } from './lossChart.ts'

interface Props {
  station: Station
  thing: Thing
  history: ThingHistory
}

/** What the record knows of a thing, wherever it was. */
export function ThingRecord({ station, thing, history }: Props) {
  return (
    <>
      <Losses history={history} />
      <Swept station={station} history={history} />
      <Measured station={station} thing={thing} history={history} />
      <Stays station={station} history={history} />
    </>
  )
}

/** The loss between its two ends, from readings in any chain. */
function Losses({ history: { losses } }: Pick<Props, 'history'>) {
  const [chosen, setChosen] = useState<string | null>(null)
  if (losses.length === 0) return null
  const keyOf = ({ chainId, channelId }: (typeof losses)[number]) => `${chainId} ${channelId}`
  const inOrder = losses.toSorted(
    (a, b) => a.with.length - b.with.length || b.points.length - a.points.length,
  )
  const shown = inOrder.find((each) => keyOf(each) === chosen) ?? inOrder[0]!
  return (
    <section aria-label="Loss by readings">
      <h3 className="border-b border-ink pb-1 font-bold">Loss by readings</h3>
      <ul>
        {inOrder.map((loss) => (
          <li key={keyOf(loss)} className="border-b border-rule py-1 text-sm">
            <button
              type="button"
              className="link min-h-6 text-left"
              aria-pressed={loss === shown}
              onClick={() => setChosen(keyOf(loss))}
            >
              {loss.chain}
              {loss.frequencyHz !== null && `, ${formatFrequency(loss.frequencyHz)}`}
            </button>
            : {lossWords(loss)}{' '}
            <span className="text-muted">
              ({dayText(new Date(loss.points.at(-1)!.at).toISOString())})
            </span>
          </li>
        ))}
      </ul>
      {shown.points.length > 1 && (
        <div className="relative mt-2 h-44">
          <ChartView chart={lossChart(shown)} />
        </div>
      )}
    </section>
  )
}

/** What an analyser saw of it, alone or with the rest of a line. */
function Swept({ station, history: { sweeps } }: Omit<Props, 'thing'>) {
  const { length } = useUnits()
  if (sweeps.length === 0) return null
  return (
    <section aria-label="By sweeps">
      <h3 className="border-b border-ink pb-1 font-bold">By sweeps</h3>
      {driftWords(
        sweeps.map(({ sweep }) => sweep),
        length,
      ).map((words) => (
        <p key={words} className="py-1 text-sm text-caution">
          ▲ {words}
        </p>
      ))}
      <ul>
        {sweeps.map(({ chain, with: others, sweep }) => (
          <li key={sweep.id} className="flex flex-wrap gap-x-3 border-b border-rule py-1 text-sm">
            <span className="w-24 shrink-0 text-muted">{dayText(sweep.readAt)}</span>
            <Link
              className="link min-w-48 flex-1"
              to={`${chainAddress(station.id, sweep.chainId, 'line')}?sweep=${sweep.id}`}
            >
              {sweep.alone ? 'alone' : sweep.place}, {chain}
              {others.length > 0 && `, with ${others.join(', ')}`}
            </Link>
            <span>{sweepFacts(sweep, length)}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** Bench sheets about it, in any chain. */
function Measured({ station, thing, history: { measurements } }: Props) {
  const place = thing.places.find(({ gone }) => !gone)
  const asked = useSearchParams()[0].get('measure')
  const sheet = worksheetKinds.find((kind) => kind === asked) ?? 'substitution'
  if (!thing.stage) return null
  return (
    <section aria-label="Measured">
      <h3 className="border-b border-ink pb-1 font-bold">Measured on the bench</h3>
      {measurements.length === 0 && (
        <p className="py-1.5 text-sm text-muted">No bench sheet is about it yet.</p>
      )}
      <ul>
        {measurements.map(({ id, kind, title, measuredAt, result }) => (
          <li key={id} className="flex gap-3 border-b border-rule py-1 text-sm">
            <span className="w-24 shrink-0 text-muted">{dayText(measuredAt)}</span>
            <Link
              className="link flex-1"
              to={`/station/${station.id}/bench?sheet=${kind}&from=${id}`}
            >
              {titleOf(kind)}: {title}
            </Link>
            {result && <span>{withRange(result, 2, result.unit)}</span>}
          </li>
        ))}
      </ul>
      {(thing.stage.kind === 'line' || thing.stage.kind === 'pad') && place && (
        <Link
          className="button mt-2"
          autoFocus={asked !== null}
          to={`/station/${station.id}/bench?sheet=${sheet}&about=${place.chainId}/${place.stageId}`}
        >
          Measure it: {titleOf(sheet)}
        </Link>
      )}
    </section>
  )
}

function Stays({ station, history: { stays } }: Pick<Props, 'station' | 'history'>) {
  if (stays.length === 0) return null
  const chains = new Set(station.chains.map(({ id }) => id))
  return (
    <section aria-label="Where it was">
      <h3 className="border-b border-ink pb-1 font-bold">Where it was</h3>
      <ul>
        {stays.map(({ chainId, chain, from, to }) => (
          <li key={`${chainId} ${from}`} className="border-b border-rule py-1 text-sm">
            {chains.has(chainId) ? (
              <Link className="link" to={chainAddress(station.id, chainId)}>
                {chain}
              </Link>
            ) : (
              <span>{chain} (deleted)</span>
            )}
            : from {dayText(from)}
            {to === null ? ', to this day' : ` to ${dayText(to)}`}
          </li>
        ))}
      </ul>
    </section>
  )
}
