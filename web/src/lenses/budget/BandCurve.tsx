import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import { type BandSweep, type Chain, formatSwr } from '@saltline/core'
import { useMemo, useState } from 'react'
import { beyondTuner, settingOf } from '../../model/answers.ts'
import { reachOf } from '../../model/reach.ts'
import { type Reach, ReachChoice } from '../../ui/ReachChoice.tsx'
import { SWR_AXIS_TOP } from './swrAxis.ts'
import { useFollowedTask } from '../../compute/useTask.ts'
import { useUnits } from '../../platform/preferences.ts'
import { derive, useSource } from '../../platform/store.ts'
import type { ChartSource } from '../../ui/chart/chart.ts'
import { ChartTable, ChartView } from '../../ui/chart/ChartView.tsx'
import { bandChart } from './bandChart.ts'

const POINTS = 241

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
  const { power } = useUnits()
  const powerW = settingOf(document.transmitter, channel)
  const request = useMemo(
    () => ({ chain, ...band, points: POINTS, powerW, tunedHz: frequencyHz }),
    [chain, band, powerW, frequencyHz],
  )
  const { told } = useFollowedTask('band', request)
  const description = `Watts at ${document.load.name} and SWR over frequency`
  const chart = useMemo(
    () =>
      derive(told, (now) => {
        const sweep = now?.last
        return sweep
          ? bandChart(sweep, { channelHz: frequencyHz, antennaSwr, power, description })
          : null
      }),
    [told, frequencyHz, antennaSwr, power, description],
  )
  const beyond = useSource(
    useMemo(
      () => derive(told, (now) => (now?.last && antennaSwr ? offScale(now.last) : null)),
      [told, antennaSwr],
    ),
  )
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
      {!asTable && beyond && <p className="text-xs">{beyond}</p>}
      <div className="relative min-h-0 flex-1">
        {asTable ? <BandTable of={chart} /> : <ChartView chart={chart} />}
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

function BandTable({ of }: { of: ChartSource }) {
  const chart = useSource(of)
  return chart && <ChartTable chart={chart} />
}
