/** Instruments of a station, and what readings were taken on. */
import {
  dayText,
  type FarEnd,
  type Instrument,
  type InstrumentDocument,
  type Reading,
  type Station,
} from '@saltline/contract'
import {
  calibratedMeter,
  type CalibrationPoints,
  formatFrequency,
  type Meter,
  modeOf,
  usualMeter,
} from '@saltline/core'

export const instrumentsOf = ({ gear }: Station): Instrument[] =>
  gear.filter((each): each is Instrument => each.kind === 'instrument')

/** Those that show watts or an SWR in a line. */
export const metersOf = (station: Station): Instrument[] =>
  instrumentsOf(station).filter(({ document }) => document.type !== 'dummy load')

/** Meters to choose from: the station's own, or usual ones where it has none. */
export function meterChoices(
  station: Station,
): { id: string; name: string; meter: Meter; calibration?: CalibrationPoints | undefined }[] {
  const own = metersOf(station)
  return own.length > 0
    ? own.map(({ id, document }) => ({
        id,
        name: document.name,
        meter: calibratedMeter(document),
        calibration: document.calibration?.points,
      }))
    : [
        { id: '', name: 'a usual meter, ± 5 % of full scale', meter: usualMeter },
        { id: 'peak', name: 'the same, showing the peak', meter: { ...usualMeter, kind: 'peak' } },
      ]
}

export const instrumentFacts = (document: InstrumentDocument): string =>
  [
    document.type,
    document.kind === 'peak' ? 'shows the peak' : 'shows the average',
    `± ${Number((document.accuracy * 100).toPrecision(3))} % of ${document.rangesW.length > 0 ? (document.accuracyOf ?? 'full scale') : 'reading'}`,
    ...(document.calibration ? [`calibrated ${dayText(document.calibration.on)}`] : []),
  ].join(', ')

/** What a reading was taken into, where the antenna was not connected. */
const INTO: Record<FarEnd, string> = {
  antenna: '',
  load: 'into a 50\u00a0Ω load',
  open: 'far end open',
  short: 'far end shorted',
}

/** On what a reading was taken. */
export const onText = ({
  frequencyHz,
  mode,
  farEnd,
}: Pick<Reading, 'frequencyHz' | 'mode' | 'farEnd'>): string =>
  [formatFrequency(frequencyHz), modeOf(mode).short, INTO[farEnd]].filter(Boolean).join(', ')
