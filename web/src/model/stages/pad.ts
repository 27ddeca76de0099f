import { limits, padFigures, type PadPart, type StageDocument } from '@saltline/contract'
import {
  formatDb,
  formatFrequency,
  padLossDb,
  padPasses,
  type PartClass,
  partClasses,
  REFERENCE_OHM,
  type Solution,
} from '@saltline/core'
import { POZAR } from '../sources.ts'
import type { Steps } from '../working.ts'
import { figureChanges } from './figureWords.ts'
import type { Choice, StageKind } from './stageKind.ts'

type Pad = Extract<StageDocument, { kind: 'pad' }>

/** Strokes of every part. */
export const partIcons: Record<PadPart, string> = {
  connector: 'M2 10h7M15 10h7M9 6v8M15 6v8M9 10h6',
  switch: 'M3 10h5M8 10l8-5M16 10h5M16 5v0M8 10v0',
  arrester: 'M13.500 3l-4 7.500h5.500l-4.500 6.500',
  meter: 'M5 14a7 7 0 0 1 14 0M12 14l3.500-5',
  filter: 'M4 6c3 0 5 0 6.500 3s3 6 9.500 6',
  choke: 'M3 10c1-5 3.500-5 4.500 0s3.500 5 4.500 0 3.500-5 4.500 0 3.500 5 4.500 0',
  attenuator: 'M4 5l16 5-16 5z',
}

/** The class that a new part of a kind is taken from. */
const usualPart: Record<Exclude<PadPart, 'attenuator' | 'filter'>, string> = {
  connector: 'n',
  switch: 'switch-2',
  arrester: 'gas-230',
  meter: 'meter-line',
  choke: 'choke-ring',
}

/** A chain takes its own copy of a class of part; the loss on one frequency stands beside its table. */
export function copyOfPart(of: PartClass, hz: number) {
  const points = of.pointsDb
    .map(([mhz, db]): [number, number] => [mhz * 1e6, db])
    .filter(([at]) => at <= limits.frequencyHz[1])
  const lossDb = padLossDb({ kind: 'pad', lossDb: 0, points }, hz)
  const passes = of.passesMhz?.map((mhz) => mhz * 1e6) as [number, number] | undefined
  return { gearId: of.id, points, lossDb, atHz: undefined, passes }
}

/** The filter that lets a frequency through, and as little above it as may be. */
const usualFilter = (hz: number): PartClass => {
  const filters = partClasses.filter(({ part }) => part === 'filter')
  return filters.find(({ passesMhz }) => passesMhz && hz <= passesMhz[1] * 1e6) ?? filters.at(-1)!
}

const choiceOf = (choice: keyof typeof usualPart, label: string, hint: string): Choice => ({
  choice,
  label,
  hint,
  make: (hz) => ({
    kind: 'pad',
    part: choice,
    ...copyOfPart(
      partClasses.find(({ id }) => id === usualPart[choice])!,
      hz,
    ),
  }),
})

export const pad: StageKind<Pad> = {
  title: ({ part }) => (part === 'attenuator' ? 'Pad' : part[0]!.toUpperCase() + part.slice(1)),
  icon: ({ part }) => partIcons[part],
  figure: (stage, hz) => (padPasses(stage, hz) ? formatDb(padLossDb(stage, hz)) : '✕ blocks'),
  changes: (a, b) =>
    a.gearId !== b.gearId && b.gearId ? ['another class of part'] : figureChanges(padFigures, a, b),
  steps: padSteps,
  choices: [
    choiceOf('connector', 'Connector', 'a joint or adapter'),
    choiceOf('meter', 'Meter', 'a through-line wattmeter'),
    choiceOf('switch', 'Switch', 'an antenna switch'),
    choiceOf('arrester', 'Arrester', 'at the bulkhead'),
    {
      choice: 'filter',
      label: 'Filter',
      hint: 'low-pass or cavity',
      make: (hz) => ({ kind: 'pad', part: 'filter', ...copyOfPart(usualFilter(hz), hz) }),
    },
    choiceOf('choke', 'Choke', 'against current on the braid'),
    {
      choice: 'attenuator',
      label: 'Pad',
      hint: 'a matched attenuator',
      // A pad is chosen by its loss, not by its class.
      make: () => ({ kind: 'pad', part: 'attenuator', lossDb: 3 }),
    },
  ],
}

function padSteps(stage: Pad, { frequencyHz: hz }: Solution): Steps {
  return {
    steps: [
      {
        what: `Insertion loss at ${formatFrequency(hz)}`,
        sum: stage.points
          ? 'from its points, straight between them on logarithmic axes'
          : stage.atHz
            ? `${formatDb(stage.lossDb)} · √(f / ${formatFrequency(stage.atHz)})`
            : 'as entered, the same at every frequency',
        result: formatDb(padLossDb(stage, hz)),
      },
    ],
    remarks: [
      `Taken as a matched two-port on ${REFERENCE_OHM} Ω. Between mismatched ends it takes more than its insertion loss, since the returning wave pays too.`,
    ],
    sources: [POZAR],
  }
}
