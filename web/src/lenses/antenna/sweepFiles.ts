import { magnitude, REFERENCE_OHM, swrOf, writeTouchstone } from '@saltline/core'
import type { AntennaView } from './antennaView.ts'

/** The sweep on the screen as a Touchstone one-port file. */
export const sweepAsTouchstone = (name: string, { frequencyHz, reflection }: AntennaView): string =>
  writeTouchstone({
    referenceOhm: REFERENCE_OHM,
    frequencyHz,
    re: Float64Array.from(reflection, ({ re }) => re),
    im: Float64Array.from(reflection, ({ im }) => im),
    comments: [`${name}, reflection at the feed point`],
  })

/** The sweep on the screen as comma-separated values, with its units in the heading. */
export function sweepAsCsv({ frequencyHz, reflection, rOhm, xOhm, band }: AntennaView): string {
  const head = 'frequency Hz,R Ohm,X Ohm,SWR at antenna,SWR at transmitter,watts at antenna'
  const rows = Array.from(frequencyHz, (hz, i) =>
    [
      hz,
      rOhm[i]!.toFixed(4),
      xOhm[i]!.toFixed(4),
      swrOf(magnitude(reflection[i]!)).toFixed(5),
      band.swrAtTransmitter[i]!.toFixed(5),
      band.antennaW[i]!.toFixed(5),
    ].join(','),
  )
  return [head, ...rows, ''].join('\n')
}
