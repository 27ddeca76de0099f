import { decimals, type Settings, type Simulation, type Trace } from '@saltline/core'
import { useMemo } from 'react'
import type { Chart } from '../ui/chart/chart.ts'
import { ChartView } from '../ui/chart/ChartView.tsx'

/** The screen of an instrument: its curve as it is set now, and what stands beside it. */
export function Screen({
  trace,
  settings,
  count,
}: {
  trace: NonNullable<Simulation['trace']>
  settings: Settings
  count: number
}) {
  const shown = useMemo(() => trace(settings, count), [trace, settings, count])
  const chart = useMemo(() => chartOf(shown), [shown])
  return (
    <div className="instrument">
      <div className="relative h-72">
        <ChartView chart={chart} />
      </div>
      <p className="mt-1 text-sm text-muted" role="status">
        {shown.remark}
      </p>
    </div>
  )
}

const chartOf = ({ description, x, xUnit, y, yUnit, low, high }: Trace): Chart => ({
  description,
  x,
  xAxis: { name: xUnit, min: 0, max: x[x.length - 1]! },
  headOf: (i) => `${decimals(x[i]!, 1)}\u00a0${xUnit}`,
  yAxes: [{ name: yUnit, min: low, max: high, interval: 10 }],
  curves: [
    {
      name: 'reflected',
      y,
      colour: 'returned',
      read: (value) => `${decimals(value, 1)}\u00a0${yUnit}`,
    },
  ],
})
