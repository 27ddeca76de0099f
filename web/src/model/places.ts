/** Places on the spine as the log names them. */
import type { ChainDocument, Gear, InstrumentDocument, Reading, Station } from '@saltline/contract'
import {
  calibratedMeter,
  type CalibrationPoints,
  formatFrequency,
  type Meter,
  modeOf,
  usualMeter,
} from '@saltline/core'

export interface Place {
  /** The stage it is in front of, or `load`. */
  before: string
  plane: number
  name: string
}

/** Every plane of a chain, from the radio to the antenna. */
export const placesOf = ({ stages, load }: Pick<ChainDocument, 'stages' | 'load'>): Place[] => [
  ...stages.map(({ id, name }, plane) => ({
    before: id,
    plane,
    name: plane === 0 ? 'at the radio' : `input of ${name}`,
  })),
  {
    before: 'load',
    plane: stages.length,
    name: stages.length === 0 ? 'at the radio' : `at the ${load.name}`,
  },
]

/** Index of the plane that a reading was taken at; null where the chain has lost its stage. */
export const planeOfReading = (document: ChainDocument, { before }: Pick<Reading, 'before'>) =>
  placesOf(document).find((place) => place.before === before)?.plane ?? null

export type Instrument = Extract<Gear, { kind: 'instrument' }>

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

/** On what a reading was taken. */
export const onText = ({ frequencyHz, mode }: Pick<Reading, 'frequencyHz' | 'mode'>): string =>
  `${formatFrequency(frequencyHz)}, ${modeOf(mode).short}`

const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })

export const dayText = (at: string | number): string => day.format(new Date(at))
export const clockText = (at: string | number): string => clock.format(new Date(at))
