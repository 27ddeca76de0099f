import { attenuationDbPer100m, type Cable, decimals, formatFrequency } from '@saltline/core'
import type { Chart, Colour, Dash } from '../../ui/chart/chart.ts'

export interface LossCurve {
  name: string
  cable: Cable
  /** Data-sheet points to show beside the law, [MHz, dB per 100 m]. */
  points?: readonly (readonly [number, number])[]
}

const LOW_MHZ = 1
const STEPS = 80

const looks: readonly { colour: Colour; dash: Dash }[] = [
  { colour: 'tide', dash: 'solid' },
  { colour: 'heat', dash: 'dashed' },
  { colour: 'returned', dash: 'dotted' },
  { colour: 'ink', dash: [8, 3, 2, 3] },
]

/** Loss over frequency of one or several cables, both axes logarithmic. */
export function lossChart(curves: readonly LossCurve[], description: string): Chart {
  const highMhz = Math.max(...curves.map(({ cable }) => (cable.maxHz ?? 1e9) / 1e6))
  const x = Array.from(
    { length: STEPS + 1 },
    (_, i) => LOW_MHZ * (highMhz / LOW_MHZ) ** (i / STEPS),
  )
  const lossOf = (cable: Cable, mhz: number) =>
    mhz * 1e6 <= (cable.maxHz ?? Infinity) * 1.0001 ? attenuationDbPer100m(cable, mhz * 1e6) : NaN
  return {
    description,
    x,
    xAxis: { name: 'MHz', scale: 'log', min: LOW_MHZ, max: highMhz, format: String },
    headOf: (i) => formatFrequency(x[i]! * 1e6),
    yAxes: [{ name: 'dB per 100 m', scale: 'log' }],
    curves: curves.flatMap(({ name, cable, points }, k) => [
      {
        name,
        ...looks[k % looks.length]!,
        y: x.map((mhz) => lossOf(cable, mhz)),
        labelled: curves.length > 1,
        read: (db: number) => `${name}: ${decimals(db, 2)} dB`,
      },
      ...(points
        ? [
            {
              name: `${name}, data sheet`,
              x: points.map(([mhz]) => mhz),
              y: points.map(([, db]) => db),
              ...{ colour: 'ink' as const, width: 0, dots: 6 },
            },
          ]
        : []),
    ]),
  }
}
