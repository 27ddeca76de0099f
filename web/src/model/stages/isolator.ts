import { isolatorFigures, type StageDocument } from '@saltline/contract'
import { formatDb, formatPower, type Solution } from '@saltline/core'
import { POZAR } from '../sources.ts'
import type { Steps } from '../working.ts'
import { figureChanges } from './figureWords.ts'
import type { StageKind } from './stageKind.ts'

type Isolator = Extract<StageDocument, { kind: 'isolator' }>

export const isolator: StageKind<Isolator> = {
  title: () => 'Isolator',
  icon: () => 'M2 10h20M15 5.500l4.500 4.500-4.500 4.500M8 5v10M5 18h6M8 15v3',
  figure: ({ lossDb }) => formatDb(lossDb),
  figures: isolatorFigures,
  refuse: ({ lossDb, isolationDb }) =>
    isolationDb < lossDb ? 'An isolator holds back more than it takes.' : null,
  changes: (a, b) => figureChanges(isolatorFigures, a, b),
  steps: isolatorSteps,
  choices: [
    {
      choice: 'isolator',
      label: 'Isolator',
      hint: 'a circulator with a load: what comes back ends in it',
      make: () => ({ kind: 'isolator', lossDb: 0.4, isolationDb: 25 }),
    },
  ],
}

function isolatorSteps(stage: Isolator, solution: Solution, k: number): Steps {
  const { reflectedW } = solution.planes[k + 1]!
  return {
    steps: [
      { what: 'Toward the antenna', sum: 'as entered', result: formatDb(stage.lossDb) },
      {
        what: 'What comes back ends in its load',
        sum: 'reflected power on its antenna side',
        result: formatPower(reflectedW),
      },
      {
        what: 'Of that, back to the transmitter',
        sum: `− ${formatDb(stage.isolationDb)}`,
        result: formatPower(reflectedW * 10 ** (-stage.isolationDb / 10)),
      },
    ],
    remarks: [
      'The transmitter sees a match whatever the antenna does; the mismatch is paid for all the same.',
    ],
    sources: [POZAR],
  }
}
