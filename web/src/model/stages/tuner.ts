import {
  contentFigures,
  type Figure,
  givenTunerFigures,
  newId,
  qualityFigures,
  relayFigures,
  type StageDocument,
  type TransmitterDocument,
  type TunerDocument,
  tunerFigures,
} from '@saltline/contract'
import {
  formatAmpere,
  formatDb,
  formatFrequency,
  formatPower,
  formatSwr,
  formatVolt,
  type TunerState,
} from '@saltline/core'
import { same } from '../same.ts'
import { POZAR } from '../sources.ts'
import { elementName, elementValue } from '../tunerWords.ts'
import type { Steps } from '../working.ts'
import { rangeText } from '../wattsText.ts'
import { figureChanges } from './figureWords.ts'
import type { Bare, StageKind } from './stageKind.ts'

/** Typical tuners, each known in another way. */
export const tunerKinds = {
  hand: {
    kind: 'tuner',
    method: 'network',
    network: 'T',
    shuntAt: 'either',
    coilH: [0.1e-6, 28e-6],
    capacitorF: [15e-12, 250e-12],
    coilQ: 200,
    capacitorQ: 1000,
  },
  relays: {
    kind: 'tuner',
    method: 'stepped',
    coilBits: 7,
    coilStepH: 0.08e-6,
    capacitorBits: 7,
    capacitorStepF: 10e-12,
    coilQ: 150,
    capacitorQ: 800,
    contentSwr: 1.5,
  },
  given: { kind: 'tuner', method: 'given', lossDb: 0.3, residualSwr: 1.1, reachSwr: 10 },
} as const satisfies Record<string, Bare<TunerDocument>>

/** The tuner a transmitter has inside, as a stage right behind it. */
export const builtInTuner = (
  name: string,
  { reachSwr, lossDb }: NonNullable<TransmitterDocument['builtInTuner']>,
): StageDocument => ({
  id: newId(),
  name,
  kind: 'tuner',
  method: 'given',
  lossDb,
  residualSwr: 1.1,
  reachSwr,
})

const figuresOf: Record<TunerDocument['method'], readonly Figure[]> = {
  given: [...givenTunerFigures, ...tunerFigures],
  network: [...qualityFigures, ...tunerFigures],
  stepped: [...relayFigures, ...contentFigures, ...qualityFigures, ...tunerFigures],
}

export const tuner: StageKind<TunerDocument> = {
  title: () => 'Tuner',
  icon: () => 'M3 13c1-5 3.500-5 4.500 0s3.500 5 4.500 0 3.500-5 4.500 0M6 18L20 3M16 3h4v4',
  figure: (_stage, _hz, _unit, state, range) => {
    if (state?.tuner?.matched === false) return '✕ no match'
    return state ? rangeText(state.lossDb, range?.lossDb, formatDb) : 'tuner'
  },
  changes: (a, b) => [
    ...(a.method === b.method
      ? figureChanges(figuresOf[a.method], a, b)
      : ['known in another way']),
    ...(same(a.dials, b.dials) ? [] : ['dial marks']),
  ],
  steps: (stage, solution, k) => tunerSteps(stage, solution.stages[k]!.tuner!),
  choices: [
    {
      choice: 'tuner',
      label: 'Tuner',
      hint: 'matches its antenna side to 50 Ω',
      make: () => ({
        ...tunerKinds.hand,
        coilH: [...tunerKinds.hand.coilH],
        capacitorF: [...tunerKinds.hand.capacitorF],
      }),
    },
  ],
}

function tunerSteps(tuner: TunerDocument, state: TunerState): Steps {
  const ends = {
    what: 'SWR beyond it, and in front of it',
    sum: `${formatSwr(state.swrOut)} stays on the cable`,
    result: formatSwr(state.swrIn),
  }
  if (tuner.method === 'given') {
    return {
      steps: [
        ends,
        { what: 'Its loss', sum: 'as entered, whatever the load', result: formatDb(tuner.lossDb) },
      ],
      remarks: [
        'Known only by its loss and what SWR it leaves. That is crude: real loss grows with the mismatch. Give its network to have it worked out.',
      ],
      sources: [],
    }
  }
  return {
    steps: [
      ends,
      ...state.elements.map((element) => ({
        what: `${elementName(element)}, ${elementValue(element)}`,
        sum: `${formatVolt(element.voltageRms)} and ${formatAmpere(element.currentRms)}, RMS at PEP`,
        result: formatPower(element.lossW),
      })),
    ],
    remarks: [
      `Coil Q ${tuner.coilQ}${tuner.coilQAtHz ? ` at ${formatFrequency(tuner.coilQAtHz)}, rising as √f` : ''}, capacitor Q ${tuner.capacitorQ}. The match is solved with these losses in it.`,
      tuner.method === 'stepped'
        ? 'All relay positions are tried for the least SWR; among those within 0.05 of it the least loss is taken.'
        : 'Where several settings match, the one with the least loss inside the ranges is taken.',
      'Peak voltages are 1.41 times the RMS figures.',
    ],
    sources: [POZAR],
  }
}
