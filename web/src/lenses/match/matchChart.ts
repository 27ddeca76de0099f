import {
  formatFrequency,
  formatPower,
  type PowerUnit,
  type TunerPlace,
  tunerPlaces,
} from '@saltline/core'
import type { MatchSweep } from '../../compute/tasks/match.ts'
import {
  type Chart,
  channelMark,
  type Colour,
  type Dash,
  frequencyAxis,
  megahertz,
} from '../../ui/chart/chart.ts'
import { placeNames } from './verdict.ts'

const looks: Record<TunerPlace, { colour: Colour; dash: Dash }> = {
  none: { colour: 'muted', dash: 'dotted' },
  radio: { colour: 'ink', dash: 'dashed' },
  feedPoint: { colour: 'tide', dash: 'solid' },
}

/** Watts at the antenna over the band, a curve for each place of the tuner. */
export function matchChart(
  { frequencyHz, sweep }: MatchSweep,
  channelHz: number,
  power: PowerUnit,
): Chart {
  const mhz = megahertz(frequencyHz)
  return {
    description:
      'Watts at the antenna over frequency: without a tuner, with one at the radio, with one at the feed point',
    x: mhz,
    xAxis: frequencyAxis(mhz),
    headOf: (i) => formatFrequency(frequencyHz[i]!),
    yAxes: [{ name: 'watts', min: 0 }],
    curves: tunerPlaces.map((place) => ({
      name: placeNames[place],
      ...looks[place],
      y: sweep[place],
      labelled: true,
      read: (watts) => `${formatPower(watts, power)} ${placeNames[place]}`,
    })),
    marks: [channelMark(channelHz)],
  }
}
