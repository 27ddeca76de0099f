import { lengthFigure, type StageDocument } from '@saltline/contract'
import {
  decimals,
  formatImpedance,
  formatLength,
  formatPower,
  formatVolt,
  type Solution,
  stubImpedance,
  stubVoltageRise,
} from '@saltline/core'
import { arrow, same } from '../same.ts'
import { POZAR } from '../sources.ts'
import type { Steps } from '../working.ts'
import { usualCable } from './line.ts'
import { figureChanges } from './figureWords.ts'
import type { StageKind } from './stageKind.ts'

type Stub = Extract<StageDocument, { kind: 'stub' }>

export const stub: StageKind<Stub> = {
  title: () => 'Stub',
  icon: () => 'M2 5h20M10 5v11M14 5v11M8.500 16h7',
  figure: ({ lengthM, end }, _hz, unit) => `${formatLength(lengthM, unit)}, ${end}`,
  changes: (a, b) => [
    ...figureChanges([lengthFigure], a, b),
    ...(a.end === b.end ? [] : [arrow(a.end, b.end)]),
    ...(same(a.cable, b.cable) ? [] : ['another cable']),
  ],
  steps: stubSteps,
  choices: [
    {
      choice: 'stub',
      label: 'Stub',
      hint: 'a length of cable across the line',
      make: () => ({ kind: 'stub', lengthM: 1, cable: usualCable(), end: 'open' }),
    },
  ],
}

function stubSteps(stage: Stub, solution: Solution, k: number): Steps {
  const volts = solution.planes[k]!.voltageRms
  const rise = stubVoltageRise(stage, solution.frequencyHz)
  return {
    steps: [
      {
        what: 'Impedance across the line',
        sum: stage.end === 'open' ? 'Zc / tanh γℓ' : 'Zc · tanh γℓ',
        result: formatImpedance(stubImpedance(stage, solution.frequencyHz)),
      },
      {
        what: 'Highest voltage in it, RMS',
        sum: `${formatVolt(volts)} · ${decimals(rise, 2)}`,
        result: formatVolt(volts * rise),
      },
      {
        what: 'Its heat',
        sum: '|V|² · Re(1 / Z)',
        result: formatPower(solution.stages[k]!.lossW),
      },
    ],
    remarks: [
      stage.end === 'open'
        ? 'Its far end is open and has the highest voltage: keep it out of reach, and dry.'
        : 'Its far end is shorted; the highest voltage lies a quarter wave from it.',
    ],
    sources: [POZAR],
  }
}
