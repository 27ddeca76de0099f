import type { ChannelDocument } from '@saltline/contract'
import { decimals, type Chain, formatFrequency, type OperatingPoint } from '@saltline/core'
import { lazy, Suspense, useMemo, useState } from 'react'
import { useTask } from '../../compute/useTask.ts'
import { reachOf } from '../../model/reach.ts'
import { Problem } from '../../ui/Problem.tsx'
import { type Reach, ReachChoice } from '../../ui/ReachChoice.tsx'

const CurvesChart = lazy(() => import('./CurvesChart.tsx'))

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
  const shown = last?.antennaW.length === names.length ? last : null
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
        {shown && !asTable && (
          <Suspense fallback={<p className="p-4 text-sm text-muted">Drawing…</p>}>
            <CurvesChart curves={shown} names={names} chosen={chosen} channelHz={frequencyHz} />
          </Suspense>
        )}
        {shown && asTable && (
          <table className="w-full text-right text-sm">
            <thead className="text-muted">
              <tr className="border-b border-rule [&>th]:py-1 [&>th]:pl-2 [&>th]:font-normal">
                <th scope="col" className="text-left">
                  frequency
                </th>
                {names.map((name, k) => (
                  <th key={k} scope="col">
                    {name}, W
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rowsOf(shown.frequencyHz.length).map((i) => (
                <tr key={i} className="border-b border-rule [&>td]:py-0.5 [&>td]:pl-2">
                  <th scope="row" className="text-left font-normal">
                    {formatFrequency(shown.frequencyHz[i]!)}
                  </th>
                  {shown.antennaW.map((watts, k) => (
                    <td key={k}>
                      {watts && Number.isFinite(watts[i]) ? decimals(watts[i]!, 1) : '–'}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </section>
  )
}

/** A dozen and one of the points. */
const rowsOf = (n: number) => Array.from({ length: 13 }, (_, i) => Math.round((i * (n - 1)) / 12))
