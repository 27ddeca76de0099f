import { ChartTable, ChartView } from '../../ui/chart/ChartView.tsx'
import { useUnits } from '../../platform/preferences.ts'
import { curvesChart } from './curvesChart.ts'
import type { ChannelDocument } from '@saltline/contract'
import type { Chain, OperatingPoint } from '@saltline/core'
import { useMemo, useState } from 'react'
import { useTask } from '../../compute/useTask.ts'
import { reachOf } from '../../model/reach.ts'
import { Problem } from '../../ui/Problem.tsx'
import { type Reach, ReachChoice } from '../../ui/ReachChoice.tsx'

const POINTS = 181

/** All alternatives across the band, as curves or as a table. */
export function Curves({
  sides,
  channel,
  chosen,
  asTable,
  onToggleTable,
}: {
  sides: readonly { name: string; chain: Chain; at: OperatingPoint }[]
  channel: ChannelDocument
  chosen: number
  asTable: boolean
  onToggleTable: () => void
}) {
  const [reach, setReach] = useState<Reach>('near')
  const { frequencyHz } = channel
  const request = useMemo(
    () => ({
      chains: sides.map(({ chain, at }) => ({ chain, at })),
      ...reachOf(frequencyHz, reach, sides[0]!.chain.load),
      points: POINTS,
    }),
    [sides, frequencyHz, reach],
  )
  const { problem, last } = useTask('compareCurves', request)
  const names = useMemo(() => sides.map(({ name }) => name), [sides])
  const { power } = useUnits()
  const chart = useMemo(
    () =>
      last?.antennaW.length === names.length
        ? curvesChart(last, names, { chosen, channelHz: frequencyHz, power })
        : null,
    [last, names, chosen, frequencyHz, power],
  )
  return (
    <section aria-label="Across the band" className="flex h-[330px] flex-col">
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
      <Problem text={problem} />
      <div className="relative min-h-0 flex-1 overflow-auto">
        {chart && (asTable ? <ChartTable chart={chart} /> : <ChartView chart={chart} />)}
      </div>
    </section>
  )
}
