import { decimals, formatDb, type PlanMember } from '@saltline/core'
import type { Chart } from '../../ui/chart/chart.ts'

/** Loss over price or weight: a step down is what the money buys. */
export const frontChart = (
  front: readonly PlanMember[],
  names: readonly string[],
  unit: string,
): Chart => ({
  description: `Loss in dB over ${unit}, a point a combination`,
  x: front.map(({ cost }) => cost),
  xAxis: { name: unit, min: 0 },
  readAt: 'point',
  headOf: (i) => names[i]!,
  yAxes: [{ name: 'loss, dB', free: true }],
  curves: [
    {
      name: 'loss',
      y: front.map(({ lossDb }) => lossDb),
      ...{ colour: 'tide', width: 1.6, dots: 9, steps: true },
      read: (db, i) => `${decimals(front[i]!.cost, 0)} ${unit}, ${formatDb(db)}`,
    },
  ],
})
