import { decimals } from '@saltline/core'
import type { SheetResult } from '../../worksheets/worksheet.ts'
import { type Chart, frequencyAxis } from '../../ui/chart/chart.ts'

/** One curve under a worksheet's result: over frequency, or over power. */
export const sheetChart = ({
  x,
  unit,
  values,
  name,
}: NonNullable<SheetResult['chart']>): Chart => ({
  description: `${name} over ${unit === 'MHz' ? 'frequency' : 'power'}`,
  x,
  xAxis: { ...frequencyAxis(x), name: unit },
  headOf: (i) => `${decimals(x[i]!, 1)}\u00a0${unit}`,
  yAxes: [{ free: true }],
  curves: [{ name, y: values, colour: 'tide', read: (v) => `${name} ${decimals(v, 2)}` }],
})
