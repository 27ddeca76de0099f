/** Drills in words: what can be wrong, what went wrong, what a part is called. */
import {
  type DrillAnswer,
  type FindDrill,
  type Finding,
  formatFrequency,
  type Level,
  type MeterReading,
  partOf,
  placeName,
  practiceMeters,
  type TroubleKind,
  VOICE_POINT,
} from '@saltline/core'

export const findingNames: Readonly<Record<Finding, string>> = {
  none: 'nothing is wrong',
  reduced: 'radio on reduced power',
  antenna: 'antenna drifted',
  wet: 'cable aged or wet',
  connector: 'bad connector or part',
  swapped: 'another cable than written down',
  kinked: 'cable kinked or crushed at one place',
  water: 'water at one place of a cable',
  gap: 'joint whose pins do not touch',
  scale: 'meter read on the wrong scale',
  averaging: 'meter shows the average, not the peak',
  common: 'common-mode current',
  misread: 'a reading of the record is wrong',
}

export const levelNames: Readonly<Record<Level, string>> = {
  1: 'expected figures are shown',
  2: 'no expected figures, but an analyser',
  3: 'no expected figures, and two things are wrong',
}

export const troubleNames: Readonly<Record<TroubleKind, string>> = {
  'no load':
    'Keyed without a load. Unkey: a radio may not survive that, and an open connector burns.',
  'moved under power': 'Something was changed under power. Unkey first: RF burns.',
  'off scale': 'The needle is off the scale: take a larger range.',
  arc: 'A capacitor arcs. Unkey.',
  'over limit': 'Over a limit of the amplifier. Unkey.',
  'tuned too hot': 'Too much power for a tuner that is not tuned. Unkey.',
  'too hot': 'The dummy load is too hot. Unkey, and let it cool.',
}

/** What the part of a finding may be, by its index. */
export function partNames(
  { station }: FindDrill,
  finding: Finding,
): { value: number; label: string }[] {
  switch (partOf[finding]) {
    case 'stage':
      return station.stageNames.map((label, value) => ({ value, label }))
    case 'cable':
      return station.stageNames.flatMap((label, value) =>
        station.jackets[value] === null ? [] : [{ value, label }],
      )
    case 'joint':
      return station.stageNames
        .slice(1)
        .map((label, i) => ({ value: i + 1, label: `${station.stageNames[i]} to ${label}` }))
    case 'meter':
      return practiceMeters.map(({ name }, value) => ({ value, label: name }))
    case 'reading':
      return [
        { value: 0, label: 'the one at the radio' },
        { value: 1, label: 'the one at the antenna' },
      ]
    case null:
      return []
  }
}

/** An answer as a sentence. */
export function answerText(drill: FindDrill, { finding, part }: DrillAnswer): string {
  const name = partNames(drill, finding).find(({ value }) => value === part)?.label
  return name ? `${findingNames[finding]}: ${name}` : findingNames[finding]
}

/** Where and with what something is read. */
export function siteText(
  drill: FindDrill,
  { point, plane, instrument }: Pick<MeterReading, 'point' | 'plane' | 'instrument'>,
): string {
  const { frequencyHz } = drill.station.channels[point]!
  const voice = point === VOICE_POINT ? ', voice' : ''
  return `${placeName(drill, plane)}, ${formatFrequency(frequencyHz)}${voice}, ${practiceMeters[instrument]!.name}`
}

/** Names of what lies behind a plane, the antenna last. */
export const namesBehind = ({ station }: FindDrill, plane: number): string[] => [
  ...station.stageNames.slice(plane),
  'antenna',
]
