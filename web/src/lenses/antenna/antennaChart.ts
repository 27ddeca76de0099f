import { decimals, formatFrequency, formatImpedance, formatSwr } from '@saltline/core'
import {
  type Chart,
  channelMark,
  type Curve,
  type Dash,
  frequencyAxis,
  megahertz,
} from '../../ui/chart/chart.ts'
import type { AntennaView } from './antennaView.ts'

const SWR_TOP = 6
/** Beyond this a figure says no more than that it is high. */
const OHM_TOP = 400
const OHM_LEAST = 60

/** What lies far over an axis is left out, lest a line runs out of the drawing and in again. */
const within = (values: ArrayLike<number>, top: number): Float64Array =>
  Float64Array.from(values, (v) => (Math.abs(v) <= top * 1.5 ? v : NaN))

/** SWR at both ends above, R and X below, on one frequency axis. */
export function antennaChart(
  view: AntennaView,
  channelHz: number,
  swrLimit: number,
  name: string,
): Chart {
  const { frequencyHz, rOhm, xOhm, band, phaseKnown } = view
  const mhz = megahertz(frequencyHz)
  const most = Math.max(OHM_LEAST, ...rOhm, ...xOhm.map(Math.abs))
  const ohmTop = Math.min(OHM_TOP, Number.isFinite(most) ? Math.ceil(most / 50) * 50 : OHM_TOP)
  const swr = (where: string, values: Float64Array, dash: Dash): Curve => ({
    name: `at the ${where}`,
    y: within(values, SWR_TOP),
    ...{ colour: 'ink', width: 1.8, dash, labelled: true },
    read: (v) => `SWR ${formatSwr(v)} at the ${where}`,
  })
  const ohms: Curve[] = [
    { name: 'R', y: within(rOhm, ohmTop), ...{ colour: 'tide', axis: 1, labelled: true } },
    {
      name: 'X',
      y: within(xOhm, ohmTop),
      ...{ colour: 'heat', dash: 'dashed', axis: 1, labelled: true },
      read: (_, i) => formatImpedance({ re: rOhm[i]!, im: xOhm[i]! }),
    },
  ]
  return {
    description: `${phaseKnown ? 'SWR, R and X' : 'SWR'} of ${name} over frequency`,
    x: mhz,
    xAxis: frequencyAxis(mhz),
    headOf: (i) => formatFrequency(frequencyHz[i]!),
    yAxes: [
      { name: 'SWR', min: 1, max: SWR_TOP, interval: 1 },
      ...(phaseKnown
        ? [{ name: 'Ω', min: -ohmTop, max: ohmTop, format: (v: number) => decimals(v, 0) }]
        : []),
    ],
    below: phaseKnown,
    curves: [
      swr('feed point', band.swrAtAntenna, 'dashed'),
      swr('radio', band.swrAtTransmitter, 'solid'),
      ...(phaseKnown ? ohms : []),
    ],
    marks: [
      channelMark(channelHz),
      {
        y: swrLimit,
        label: `limit ${formatSwr(swrLimit)}`,
        ...{ colour: 'muted', dash: [2, 4] },
      },
    ],
  }
}
