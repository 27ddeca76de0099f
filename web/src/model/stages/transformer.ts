import { type StageDocument, transformerFigures, transformerInnerFigures } from '@saltline/contract'
import {
  decimals,
  formatDb,
  formatFrequency,
  formatPower,
  formatVolt,
  type Solution,
} from '@saltline/core'
import { POZAR } from '../sources.ts'
import type { Steps } from '../working.ts'
import { figureChanges } from './figureWords.ts'
import type { StageKind } from './stageKind.ts'

type Transformer = Extract<StageDocument, { kind: 'transformer' }>

const plain = (value: number): string => String(Number(value.toPrecision(3)))

/** 1:4 makes 50 Ω of 200 Ω, seen from the transmitter. */
const ratioText = (ratio: number): string =>
  ratio >= 1 ? `1:${plain(ratio)}` : `${plain(1 / ratio)}:1`

export const transformer: StageKind<Transformer> = {
  title: () => 'Transformer',
  icon: () =>
    'M8 3c5 0 5 4.700 0 4.700c5 0 5 4.600 0 4.600c5 0 5 4.700 0 4.700M16 3c-5 0-5 4.700 0 4.700c-5 0-5 4.600 0 4.600c-5 0-5 4.700 0 4.700',
  figure: ({ ratio }) => ratioText(ratio),
  changes: (a, b) => figureChanges([...transformerFigures, ...transformerInnerFigures], a, b),
  steps: transformerSteps,
  choices: [
    {
      choice: 'transformer',
      label: 'Transformer',
      hint: 'a balun or unun with a ratio',
      make: (atHz) => ({ kind: 'transformer', ratio: 4, lossDb: 0.2, atHz }),
    },
  ],
}

function transformerSteps(stage: Transformer, solution: Solution, k: number): Steps {
  const { ratio, lossDb, atHz, leakageOhm, magnetisingOhm, coreOhm } = stage
  const f = solution.frequencyHz / atHz
  const before = solution.planes[k]!
  const after = solution.planes[k + 1]!
  const reactance = (what: string, ohm: number | undefined) =>
    ohm === undefined
      ? []
      : [
          {
            what,
            sum: `${decimals(ohm, 1)} Ω · f / ${formatFrequency(atHz)}`,
            result: `${decimals(ohm * f, 1)} Ω`,
          },
        ]
  return {
    steps: [
      {
        what: 'Voltage on both sides, RMS',
        sum: `ratio of impedances ${ratioText(ratio)}, of voltages ${decimals(Math.sqrt(ratio), 2)}`,
        result: `${formatVolt(before.voltageRms)}, ${formatVolt(after.voltageRms)}`,
      },
      { what: 'Its insertion loss', sum: 'as entered', result: formatDb(lossDb) },
      ...reactance('Leakage reactance here, in series', leakageOhm),
      ...reactance('Magnetising reactance here, in parallel', magnetisingOhm),
      ...(coreOhm === undefined
        ? []
        : [
            {
              what: 'Core loss',
              sum: `|V|² / ${decimals(coreOhm, 0)} Ω`,
              result: formatPower(before.voltageRms ** 2 / coreOhm),
            },
          ]),
    ],
    remarks: [
      'An ideal ratio; loss, core and reactances are taken on the transmitter’s side of it.',
      ...(leakageOhm === undefined && magnetisingOhm === undefined
        ? ['Without its reactances it is as good on every frequency, which no real one is.']
        : []),
    ],
    sources: [POZAR],
  }
}
