import { type AmplifierDocument, amplifierFigures, tripFigures } from '@saltline/contract'
import {
  amplifierOutputW,
  decimals,
  formatDb,
  formatImpedance,
  formatPercent,
  formatPower,
  formatSwr,
  inputImpedance,
  type Solution,
} from '@saltline/core'
import { same } from '../same.ts'
import { RAPP } from '../sources.ts'
import type { Steps } from '../working.ts'
import { rangeText } from '../wattsText.ts'
import { figureChanges } from './figureWords.ts'
import type { Bare, StageKind } from './stageKind.ts'

const usualAmplifier = {
  kind: 'amplifier',
  gainDb: 12,
  driveW: 40,
  fullW: 500,
  ceilings: { data: 300, FM: 300, 'key-down': 300 },
  behaviour: 'levelled',
  foldback: [],
  tripSwr: 3,
  inputOhm: { rOhm: 50, xOhm: 0 },
} as const satisfies Bare<AmplifierDocument>

export const amplifier: StageKind<AmplifierDocument> = {
  title: () => 'Amplifier',
  icon: () => 'M20 3.500L4 10l16 6.500z',
  figure: (stage, _hz, _unit, state, range) => {
    if (state?.amplifier?.trips) return '✕ trips'
    if (state?.amplifier?.overdriven) return '▲ overdriven'
    const gained = range && { low: -range.lossDb.high, high: -range.lossDb.low }
    return state
      ? `+ ${rangeText(-state.lossDb, gained, (db) => `${decimals(db, 1)}\u00a0dB`)}`
      : formatDb(stage.gainDb)
  },
  changes: (a, b) => [
    ...figureChanges([...amplifierFigures, ...tripFigures], a, b),
    ...(same(a.dials, b.dials) ? [] : ['dial marks']),
  ],
  steps: amplifierSteps,
  choices: [
    {
      choice: 'amplifier',
      label: 'Amplifier',
      hint: 'adds power; driven from its transmitter side',
      make: () => ({ ...usualAmplifier, foldback: [] }),
    },
  ],
}

function amplifierSteps(amplifier: AmplifierDocument, solution: Solution, k: number): Steps {
  const state = solution.stages[k]!.amplifier!
  const input = inputImpedance(amplifier, solution.frequencyHz)
  const gained = amplifierOutputW(amplifier, state.driveW) / state.driveW
  return {
    steps: [
      {
        what: 'What the exciter sees through the stages between',
        sum: `input ${formatImpedance(input)}`,
        result: `SWR ${formatSwr(solution.planes[k]!.swr)}`,
      },
      { what: 'Drive, net', sum: 'Re(V·I*) at its input', result: formatPower(state.driveW) },
      {
        what: 'Output at that drive',
        sum: `gain ${formatDb(amplifier.gainDb)} at small drive, ${decimals(10 * Math.log10(gained), 1)} dB here`,
        result: formatPower(state.outputW),
      },
      {
        what: 'Its own foldback',
        sum: `SWR ${formatSwr(solution.planes[k + 1]!.swr)} at its output`,
        result: formatPercent(state.foldback),
      },
      {
        what: 'Most drive in this mode',
        sum: `for ${formatPower(state.ceilingW)} PEP`,
        result: formatPower(state.mostDriveW),
      },
    ],
    remarks: [
      'Two legs: the exciter drives the amplifier’s input, the amplifier drives its antenna side.',
      'Compression follows Rapp’s curve through small-signal gain and the drive for full output.',
    ],
    sources: [RAPP],
  }
}
