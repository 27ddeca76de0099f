import { duplexerFigures, type StageDocument } from '@saltline/contract'
import {
  duplexerBranch,
  formatDb,
  formatFrequency,
  formatPower,
  type Solution,
} from '@saltline/core'
import { POZAR } from '../sources.ts'
import type { Steps } from '../working.ts'
import { figureChanges } from './figureWords.ts'
import type { StageKind } from './stageKind.ts'

type Duplexer = Extract<StageDocument, { kind: 'duplexer' }>

const lossHere = (stage: Duplexer, hz: number): number | null => {
  const branch = duplexerBranch(stage, hz)
  return branch === null ? null : branch === 'transmit' ? stage.lossDb : stage.receiveLossDb
}

export const duplexer: StageKind<Duplexer> = {
  title: () => 'Duplexer',
  icon: () => 'M2 10h6l5-6h9M8 10l5 6h9M15 2v4M18 14v4',
  figure: (stage, hz) => {
    const loss = lossHere(stage, hz)
    return loss === null ? '✕ blocks' : formatDb(loss)
  },
  figures: duplexerFigures,
  refuse: (d) =>
    d.transmitHighHz < d.transmitLowHz || d.receiveHighHz < d.receiveLowHz
      ? 'A branch would end before it begins: change its other edge first.'
      : d.transmitLowHz <= d.receiveHighHz && d.receiveLowHz <= d.transmitHighHz
        ? 'The two branches would overlap: move the other one first.'
        : null,
  changes: (a, b) => figureChanges(duplexerFigures, a, b),
  steps: duplexerSteps,
  choices: [
    {
      choice: 'duplexer',
      label: 'Duplexer',
      hint: 'one antenna for a transmitter and a receiver at once',
      // Its transmitter’s branch is about the channel, the other one a usual spacing below.
      make: (hz) => {
        const spacing = hz > 300e6 ? 7.6e6 : hz > 100e6 ? 4.6e6 : hz / 30
        const width = spacing / 20
        return {
          kind: 'duplexer',
          transmitLowHz: hz - width,
          transmitHighHz: hz + width,
          lossDb: 1.2,
          isolationDb: 80,
          receiveLowHz: hz - spacing - width,
          receiveHighHz: hz - spacing + width,
          receiveLossDb: 1.2,
        }
      },
    },
  ],
}

function duplexerSteps(stage: Duplexer, solution: Solution, k: number): Steps {
  const hz = solution.frequencyHz
  const spacing =
    (stage.transmitLowHz + stage.transmitHighHz - stage.receiveLowHz - stage.receiveHighHz) / 2
  const into = solution.planes[k]!.forwardW * 10 ** (-stage.isolationDb / 10)
  return {
    steps: [
      {
        what: `Loss of the ${duplexerBranch(stage, hz) === 'receive' ? 'receiver’s' : 'transmitter’s'} branch at ${formatFrequency(hz)}`,
        sum: 'as entered',
        result: formatDb(lossHere(stage, hz) ?? NaN),
      },
      {
        what: 'Spacing of the branches',
        sum: 'between their middles',
        result: formatFrequency(Math.abs(spacing)),
      },
      {
        what: 'Of this transmitter into the receiver',
        sum: `${formatPower(solution.planes[k]!.forwardW)} − ${formatDb(stage.isolationDb)}`,
        result: formatPower(into, 'dBm'),
      },
    ],
    remarks: ['A matched loss in each branch; outside of both nothing passes.'],
    sources: [POZAR],
  }
}
