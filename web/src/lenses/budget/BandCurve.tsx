import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import { type BandSweep, type Chain, decimals, formatFrequency, formatSwr } from '@saltline/core'
import { lazy, Suspense, useMemo, useState } from 'react'
import { beyondTuner, settingOf } from '../../model/answers.ts'
import { reachOf } from '../../model/reach.ts'
import { type Reach, ReachChoice } from '../../ui/ReachChoice.tsx'
import { SWR_AXIS_TOP } from './swrAxis.ts'
import { useBandSweep } from '../../compute/useBandSweep.ts'

const BandChart = lazy(() => import('./BandChart.tsx'))

/** Watts at the antenna and SWR at both ends over frequency, as a curve or as a table. */
export function BandCurve({
  document,
  chain,
  channel,
  asTable,
  onToggleTable,
}: {
  document: ChainDocument
  chain: Chain
  channel: ChannelDocument
  asTable: boolean
  onToggleTable: () => void
}) {
  const [reach, setReach] = useState<Reach>('near')
  const { frequencyHz } = channel
  const band = useMemo(
    () => reachOf(frequencyHz, reach, chain.load),
    [frequencyHz, reach, chain.load],
  )
  const antennaSwr = !beyondTuner(document.stages, document.stages.length)
  const result = useBandSweep(chain, band, settingOf(document.transmitter, channel), frequencyHz)
  return (
    <section aria-label="Across the band" className="flex h-full min-h-72 flex-col">
      <div className="flex items-center justify-between gap-2 text-sm">
        <h2 className="text-muted">Across the band</h2>
        <div className="flex">
          <ReachChoice value={reach} onChange={setReach} />
          <button
            type="button"
            className="quiet !min-h-6 !px-1.5 text-sm"
            aria-pressed={asTable}
            onClick={onToggleTable}
          >
            {asTable ? 'curve' : 'table'}
          </button>
        </div>
      </div>
      {result && !asTable && antennaSwr && offScale(result) && (
        <p className="text-xs">{offScale(result)}</p>
      )}
      <div className="relative min-h-0 flex-1">
        {result && asTable && (
          <BandTable sweep={result} channelHz={frequencyHz} antennaSwr={antennaSwr} />
        )}
        {result && !asTable && (
          <Suspense fallback={<p className="p-4 text-sm text-muted">Drawing…</p>}>
            <BandChart
              sweep={result}
              channelHz={frequencyHz}
              antennaSwr={antennaSwr}
              description={`Watts at ${document.load.name} and SWR over frequency`}
            />
          </Suspense>
        )}
      </div>
    </section>
  )
}

/** Says what the SWR axis cannot show: an antenna that is beyond it all over this band. */
function offScale({ swrAtAntenna }: BandSweep): string | null {
  let low = Infinity
  let high = 0
  for (const swr of swrAtAntenna) {
    if (swr < low) low = swr
    if (swr > high) high = swr
  }
  const [from, to] = [formatSwr(low), formatSwr(high)]
  return low > SWR_AXIS_TOP * 1.001 && high >= low
    ? `SWR at the antenna is off this scale: ${from === to ? from : `${from} to ${to}`}`
    : null
}

/** A dozen and one lines of the same numbers. */
function BandTable({
  sweep,
  channelHz,
  antennaSwr,
}: {
  sweep: BandSweep
  channelHz: number
  antennaSwr: boolean
}) {
  const n = sweep.frequencyHz.length
  const rows = Array.from({ length: 13 }, (_, i) => Math.round((i * (n - 1)) / 12))
  const nearest = rows.reduce((best, i) =>
    Math.abs(sweep.frequencyHz[i]! - channelHz) < Math.abs(sweep.frequencyHz[best]! - channelHz)
      ? i
      : best,
  )
  return (
    <table className="w-full text-right text-sm">
      <thead className="text-muted">
        <tr className="border-b border-rule [&>th]:py-1 [&>th]:font-normal">
          <th scope="col" className="text-left">
            frequency
          </th>
          <th scope="col">antenna, W</th>
          <th scope="col">SWR at radio</th>
          {antennaSwr && <th scope="col">at antenna</th>}
        </tr>
      </thead>
      <tbody>
        {rows.map((i) => (
          <tr
            key={i}
            className={`border-b border-rule last:border-0 ${i === nearest ? 'font-bold' : ''}`}
          >
            <th scope="row" className="py-0.5 text-left font-normal">
              {formatFrequency(sweep.frequencyHz[i]!)}
            </th>
            <td>{decimals(sweep.antennaW[i]!, 1)}</td>
            <td>{formatSwr(sweep.swrAtTransmitter[i]!)}</td>
            {antennaSwr && <td>{formatSwr(sweep.swrAtAntenna[i]!)}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  )
}
