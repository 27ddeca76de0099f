import { type AlongLine, decimals, formatLength, type LengthUnit } from '@saltline/core'
import type { Chart } from '../../ui/chart/chart.ts'

const FEET = 1 / 0.3048
/** Names of planes nearer to each other than this share of the drawing would be written over each other. */
const APART = 0.11

/** Less than this is the noise of any analyser, dB. */
const FLOOR_DB = -60
const levelOf = (rho: number): number => Math.max(FLOOR_DB, 20 * Math.log10(rho))
const figure = (db: number): string => `${decimals(db, 1)}\u00a0dB`

/** Reflection against distance: what the sweep shows over what it should show, and where the parts meet. */
export function lineChart(
  along: AlongLine,
  names: readonly string[],
  measured: boolean,
  unit: LengthUnit,
): Chart {
  const own = unit === 'ft' ? FEET : 1
  const x = along.distanceM.map((m) => m * own)
  const farthest = x.at(-1)!
  let written = -Infinity
  const expected = along.expected.map(levelOf)
  return {
    description: 'Reflection against distance along the line, measured and expected',
    x,
    xAxis: { name: unit, min: 0, max: farthest },
    xColumn: `distance, ${unit}`,
    headOf: (i) => formatLength(along.distanceM[i]!, unit),
    yAxes: [
      {
        min: FLOOR_DB,
        max: 5,
        interval: 10,
        format: (db) => (db > 0 ? '' : decimals(db, 0)),
      },
    ],
    curves: [
      ...(measured
        ? [
            {
              name: 'measured',
              y: along.measured.map(levelOf),
              colour: 'returned' as const,
              labelled: true,
              read: (db: number) => `${figure(db)} measured`,
              column: { head: 'measured, dB', text: (db: number) => decimals(db, 1) },
            },
          ]
        : []),
      {
        name: 'expected',
        y: expected,
        colour: measured ? 'muted' : 'returned',
        dash: measured ? 'dashed' : 'solid',
        labelled: true,
        read: (db) => `${figure(db)} expected`,
        column: { head: 'expected, dB', text: (db) => decimals(db, 1) },
      },
    ],
    marks: along.placesM.map((m, i) => {
      const at = m * own
      const room = at - written > APART * farthest
      if (room) written = at
      return { x: at, colour: 'muted', dash: 'dotted', ...(room && { label: names[i]! }) }
    }),
  }
}
