import { dayText, type ThingLoss } from '@saltline/contract'
import { decimals } from '@saltline/core'
import type { Chart } from '../../ui/chart/chart.ts'

/** The loss of a section over the years, with what was expected of it. */
export function lossChart({ chain, points }: ThingLoss): Chart {
  const x = points.map(({ at }) => at)
  const beside = (x.at(-1)! - x[0]!) * 0.02
  const banded = points.filter(({ lowDb, highDb }) => lowDb !== null && highDb !== null)
  const db = (value: number) => `${decimals(value, 2)}\u00a0dB`
  return {
    description: `Loss in ${chain}, ${points.length} weeks with readings`,
    x,
    xAxis: { scale: 'time', min: x[0]! - beside, max: x.at(-1)! + beside + 1 },
    headOf: (i) => dayText(new Date(x[i]!).toISOString()),
    yAxes: [{ name: 'dB', free: true, format: (value) => decimals(value, 1) }],
    curves: [
      {
        name: 'loss',
        y: points.map(({ lossDb }) => lossDb),
        ...{ colour: 'ink', width: 0, dots: 5 },
        read: db,
      },
      {
        name: 'expected',
        y: points.map(({ expectedDb }) => expectedDb ?? NaN),
        ...{ colour: 'tide', width: 1, dash: 'dashed' },
        read: (value) => `expected ${db(value)}`,
      },
    ],
    areas: [
      {
        x: banded.map(({ at }) => at),
        low: banded.map(({ lowDb }) => lowDb!),
        high: banded.map(({ highDb }) => highDb!),
        colour: 'tide-fill',
      },
    ],
  }
}
