import type { StageDocument } from '@saltline/contract'
import { formatFrequency } from '@saltline/core'
import { same } from '../same.ts'
import { POZAR } from '../sources.ts'
import type { Steps } from '../working.ts'
import type { StageKind } from './stageKind.ts'

type Measured = Extract<StageDocument, { kind: 'measured' }>

export const measured: StageKind<Measured> = {
  title: () => 'Measured part',
  icon: () => 'M4 4v12h16M7 13c2-7 4-8 5-5s3 1 6-4',
  figure: () => 'measured',
  changes: (a, b) => [
    ...(same(a.s, b.s) && same(a.frequencyHz, b.frequencyHz) ? [] : ['other measured figures']),
    ...(Boolean(a.turned) === Boolean(b.turned) ? [] : ['turned round']),
  ],
  steps: measuredSteps,
  // It comes from a file.
  choices: [],
}

function measuredSteps({ frequencyHz }: Measured): Steps {
  return {
    steps: [
      {
        what: 'S-parameters on this frequency',
        sum: `between ${frequencyHz.length} points from ${formatFrequency(frequencyHz[0]!)} to ${formatFrequency(frequencyHz.at(-1)!)}`,
        result: 'as measured',
      },
    ],
    remarks: ['Interpolated as complex numbers, turned into a matrix by Pozar’s table 4.2.'],
    sources: [POZAR],
  }
}
