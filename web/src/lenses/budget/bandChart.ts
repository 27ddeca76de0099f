import {
  type BandSweep,
  decimals,
  formatFrequency,
  formatPower,
  formatSwr,
  type PowerUnit,
} from '@saltline/core'
import {
  type Chart,
  channelMark,
  type Curve,
  frequencyAxis,
  megahertz,
} from '../../ui/chart/chart.ts'
import { SWR_AXIS_TOP } from './swrAxis.ts'

/** Watts as a filled curve, both SWRs as lines, the channel as a mark. */
export function bandChart(
  sweep: BandSweep,
  {
    channelHz,
    antennaSwr,
    power,
    description,
  }: {
    channelHz: number
    /** Whether the SWR at the antenna means anything: it does not right behind a tuner. */
    antennaSwr: boolean
    power: PowerUnit
    description: string
  },
): Chart {
  const mhz = megahertz(sweep.frequencyHz)
  const { swrAtTransmitter, swrAtAntenna, antennaW, antennaWLow, antennaWHigh } = sweep
  const swrs = [...swrAtTransmitter, ...(antennaSwr ? swrAtAntenna : [])].filter(
    (swr) => swr <= SWR_AXIS_TOP,
  )
  const spread = antennaWHigh.some((high, i) => high - antennaWLow[i]! > 0.01 * high)
  /** The two bounds where only the antenna's SWR is known. */
  const bound = (y: Float64Array): Curve => ({
    name: 'bound',
    ...{ y, colour: 'tide', width: 1, dash: 'dotted' },
  })
  return {
    description,
    x: mhz,
    xAxis: frequencyAxis(mhz),
    xColumn: 'frequency',
    headOf: (i) => formatFrequency(sweep.frequencyHz[i]!),
    yAxes: [
      { name: 'watts', min: 0, colour: 'tide' },
      {
        name: 'SWR',
        min: 1,
        max: Math.max(3, Math.ceil(Math.max(1, ...swrs))),
        interval: 1,
        bare: true,
      },
    ],
    curves: [
      {
        name: 'watts at the antenna',
        ...{ y: antennaW, colour: 'tide', width: 2.5, fill: true },
        read: (watts) => `${formatPower(watts, power)} at the antenna`,
        column: { head: 'antenna, W', text: (watts) => decimals(watts, 1) },
      },
      ...(spread ? [bound(antennaWLow), bound(antennaWHigh)] : []),
      {
        name: 'SWR at the radio',
        ...{ y: swrAtTransmitter, colour: 'ink', width: 1.6, axis: 1, labelled: true },
        read: (swr) => `SWR ${formatSwr(swr)} at the radio`,
        column: { head: 'SWR at radio', text: formatSwr },
      },
      ...(antennaSwr
        ? [
            {
              name: 'SWR at the antenna',
              ...{ y: swrAtAntenna, colour: 'ink', width: 1.6, dash: 'dashed', axis: 1 },
              labelled: true,
              read: (swr: number) => `SWR ${formatSwr(swr)} at the antenna`,
              column: { head: 'at antenna', text: formatSwr },
            } satisfies Curve,
          ]
        : []),
    ],
    marks: [{ ...channelMark(channelHz), label: String(channelHz / 1e6) }],
  }
}
