import { decimals } from '@saltline/core'
import { type Chart, frequencyAxis } from '../../ui/chart/chart.ts'

/** One curve over frequency under a worksheet's result. */
export const sheetChart = ({
  mhz,
  values,
  name,
}: {
  mhz: readonly number[]
  values: readonly number[]
  name: string
}): Chart => ({
  description: `${name} over frequency`,
  x: mhz,
  xAxis: frequencyAxis(mhz),
  headOf: (i) => `${decimals(mhz[i]!, 1)}\u00a0MHz`,
  yAxes: [{ free: true }],
  curves: [{ name, y: values, colour: 'tide', read: (v) => `${name} ${decimals(v, 2)}` }],
})
