import {
  type Complex,
  decimals,
  formatFrequency,
  formatLength,
  formatSwr,
  impedanceOf,
  type LengthUnit,
  type Reflections,
  swrOf,
} from '@saltline/core'
import type { Along } from '../../compute/tasks/alongLine.ts'
import { type Chart, type Curve, frequencyAxis, megahertz } from '../../ui/chart/chart.ts'
import type { Trail } from '../../ui/ReflectionChart.tsx'

const FEET = 1 / 0.3048
/** Names of planes nearer to each other than this share of the drawing would be written over each other. */
const APART = 0.11

/** Less than this is the noise of any analyser, dB. */
const FLOOR_DB = -60
const levelOf = (rho: number): number => Math.max(FLOOR_DB, 20 * Math.log10(rho))
const figure = (db: number): string => `${decimals(db, 1)}\u00a0dB`

/** Reflection against distance: what the sweep shows over what it should show, and where the parts meet. */
export function lineChart(
  along: Along,
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
      ...(along.before
        ? [
            {
              name: 'before',
              y: along.before.map(levelOf),
              colour: 'heat' as const,
              dash: 'dotted' as const,
              labelled: true,
              read: (db: number) => `${figure(db)} before`,
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

/** What a sweep is drawn as. */
export const views = ['distance', 'SWR', 'return loss', 'R', 'X', 'reflection'] as const
export type View = (typeof views)[number]
/** Those over frequency. */
export type BandView = Exclude<View, 'distance' | 'reflection'>

const sizeOf = ({ re, im }: Reflections, k: number) => Math.hypot(re[k]!, im[k]!)
const MOST_SWR = 10
const REFERENCE = 50

const scales: Record<
  BandView,
  { of: (sweep: Reflections, k: number) => number; text: (value: number) => string; max?: number }
> = {
  SWR: {
    of: (sweep, k) => Math.min(MOST_SWR, swrOf(Math.min(0.999, sizeOf(sweep, k)))),
    text: (value) => `SWR ${formatSwr(value)}`,
  },
  'return loss': {
    of: (sweep, k) => -20 * Math.log10(Math.max(1e-3, sizeOf(sweep, k))),
    text: (value) => `${decimals(value, 1)}\u00a0dB`,
  },
  R: {
    of: (sweep, k) => impedanceOf({ re: sweep.re[k]!, im: sweep.im[k]! }, REFERENCE).re,
    text: (value) => `${decimals(value, 0)}\u00a0Ω`,
  },
  X: {
    of: (sweep, k) => impedanceOf({ re: sweep.re[k]!, im: sweep.im[k]! }, REFERENCE).im,
    text: (value) => `${decimals(value, 0)}\u00a0Ω`,
  },
}

/** The same sweep over frequency, with the range in which it is as expected. */
export function bandChart(along: Along, view: BandView): Chart {
  const { of, text } = scales[view]
  const { measured, before, expected } = along.band
  const curve = (
    name: string,
    sweep: Reflections,
    style: Pick<Curve, 'colour'> & Partial<Curve>,
  ): Curve => ({
    ...{ name, labelled: true, ...style },
    x: megahertz(sweep.frequencyHz),
    y: Array.from(sweep.frequencyHz, (_, k) => of(sweep, k)),
    read: (value) => `${text(value)} ${name}`,
  })
  const x = megahertz(expected.frequencyHz)
  const { range } = along
  const size = (rho: number) => of({ frequencyHz: [0], re: [rho], im: [0] }, 0)
  const ranged = range && (view === 'SWR' || view === 'return loss')
  return {
    description: `${view} of the sweep over frequency, measured and expected`,
    x,
    xAxis: frequencyAxis(x),
    xColumn: 'frequency, MHz',
    headOf: (i) => formatFrequency(expected.frequencyHz[i]!),
    yAxes: [{ name: view === 'R' || view === 'X' ? 'Ω' : view === 'SWR' ? '' : 'dB', free: true }],
    curves: [
      ...(measured ? [curve('measured', measured, { colour: 'returned' })] : []),
      ...(before ? [curve('before', before, { colour: 'heat', dash: 'dotted' })] : []),
      curve('expected', expected, {
        colour: measured ? 'muted' : 'returned',
        dash: measured ? 'dashed' : 'solid',
      }),
    ],
    ...(ranged && {
      areas: [
        {
          x: megahertz(range.frequencyHz),
          low: Array.from(range.low, size),
          high: Array.from(range.high, size),
          colour: 'tide-fill' as const,
        },
      ],
    }),
  }
}

const complexOf = ({ re, im }: Reflections): Complex[] =>
  Array.from(re, (own, k) => ({ re: own, im: im[k]! }))

/** The same as trails of the reflection drawing; the first is the one that counts. */
export function trailsOf({ band: { measured, before, expected } }: Along) {
  const own = measured ?? expected
  const others: Trail[] = [
    ...(before
      ? [
          {
            ...{ reflection: complexOf(before), name: 'before', dash: '1.5 3' },
            colour: 'var(--heat)',
          },
        ]
      : []),
    ...(measured
      ? [
          {
            ...{ reflection: complexOf(expected), name: 'expected', dash: '5 3' },
            colour: 'var(--muted)',
          },
        ]
      : []),
  ]
  return { frequencyHz: own.frequencyHz, reflection: complexOf(own), others }
}
