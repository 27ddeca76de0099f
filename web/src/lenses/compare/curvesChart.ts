import { decimals, formatFrequency, formatPower, type PowerUnit } from '@saltline/core'
import type { CompareCurves } from '../../compute/tasks/compareCurves.ts'
import {
  type Chart,
  channelMark,
  type Colour,
  frequencyAxis,
  megahertz,
} from '../../ui/chart/chart.ts'

const dashes = ['solid', 'dashed', 'dotted'] as const
const colours: readonly Colour[] = ['ink', 'heat', 'returned', 'muted']

/**
 * Watts at the antenna over a band, a curve an alternative; the chosen one is drawn strong.
 *
 * @param names the chain as it stands comes first
 */
export function curvesChart(
  { frequencyHz, antennaW }: CompareCurves,
  names: readonly string[],
  { chosen, channelHz, power }: { chosen: number; channelHz: number; power: PowerUnit },
): Chart {
  const mhz = megahertz(frequencyHz)
  return {
    description: `Watts at the antenna over frequency: ${names.join(', ')}`,
    x: mhz,
    xAxis: frequencyAxis(mhz),
    xColumn: 'frequency',
    headOf: (i) => formatFrequency(frequencyHz[i]!),
    yAxes: [{ name: 'watts', min: 0 }],
    curves: antennaW.map((watts, k) => ({
      name: names[k]!,
      y: watts ?? new Float64Array(mhz.length).fill(NaN),
      colour: k === chosen ? 'tide' : colours[k % colours.length]!,
      width: k === chosen ? 3 : 1.6,
      dash: dashes[Math.floor(k / colours.length) % dashes.length]!,
      labelled: true,
      read: (w) => `${formatPower(w, power)} ${names[k]}`,
      column: { head: `${names[k]}, W`, text: (w) => decimals(w, 1) },
    })),
    marks: [channelMark(channelHz)],
  }
}
