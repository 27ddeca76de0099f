import {
  analyserPlanes,
  type FindDrill,
  placeName,
  practiceSweep,
  usualSpan,
  usualTolerances,
} from '@saltline/core'
import { useMemo } from 'react'
import { useTask } from '../../compute/useTask.ts'
import { lineChart } from '../../lenses/line/lineChart.ts'
import { namesBehind } from '../../model/drillWords.ts'
import { sweepAnswer } from '../../model/lineSweeps.ts'
import { useUnits } from '../../platform/preferences.ts'
import { ChartView } from '../../ui/chart/ChartView.tsx'

/** What one sweep from the first place of an analyser would have said and shown, with everything wrong that was. */
export function AnalyserSaid({ drill }: { drill: FindDrill }) {
  const { length } = useUnits()
  const { chain } = drill.station
  const plane = analyserPlanes(chain)[0]
  const request = useMemo(
    () =>
      plane === undefined
        ? null
        : {
            ...{ chain, tolerances: usualTolerances, before: null, plan: usualSpan },
            ...practiceSweep(drill, drill.faults, { plane, farEnd: 'antenna' }, usualSpan, 0),
          },
    [drill, chain, plane],
  )
  const { result: along } = useTask('alongLine', request)
  const names = useMemo(() => namesBehind(drill, plane ?? 0), [drill, plane])
  const chart = useMemo(
    () => along && lineChart(along, names, true, length),
    [along, names, length],
  )
  if (plane === undefined || !along) return null
  const stages = names.map((name) => ({ name }))
  return (
    <section aria-label="What the analyser would have shown" className="mt-3 text-sm">
      <p>
        <b>The analyser, {placeName(drill, plane)}, would have said:</b>{' '}
        {sweepAnswer(along, stages, 'antenna', length).join(' ')}
      </p>
      <div className="relative mt-1 h-56">{chart && <ChartView chart={chart} />}</div>
    </section>
  )
}
