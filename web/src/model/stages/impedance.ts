/** A coil, capacitor or resistor, in line or across it. */
import { impedanceFigures, type StageDocument } from '@saltline/contract'
import {
  formatAmpere,
  formatImpedance,
  formatPower,
  formatVolt,
  type Solution,
} from '@saltline/core'
import { POZAR } from '../sources.ts'
import type { Steps } from '../working.ts'
import { figureChanges } from './figureWords.ts'
import type { StageKind } from './stageKind.ts'

type Part = Extract<StageDocument, { kind: 'series' | 'shunt' }>

const impedanceText = ({ rOhm, xOhm }: Pick<Part, 'rOhm' | 'xOhm'>): string =>
  formatImpedance({ re: rOhm, im: xOhm })

const both = {
  figure: impedanceText,
  changes: (a: Part, b: Part) => figureChanges(impedanceFigures, a, b),
  steps: partSteps,
}

export const series: StageKind<Extract<StageDocument, { kind: 'series' }>> = {
  ...both,
  title: () => 'Series part',
  icon: () => 'M2 10h3l1.500-4 3 8 3-8 3 8 3-8 1.500 4h2',
  choices: [
    {
      choice: 'series',
      label: 'Series part',
      hint: 'a coil or capacitor in line',
      make: () => ({ kind: 'series', rOhm: 0, xOhm: 0 }),
    },
  ],
}

export const shunt: StageKind<Extract<StageDocument, { kind: 'shunt' }>> = {
  ...both,
  title: () => 'Shunt part',
  icon: () => 'M3 5h18M12 5v4M7 9h10M7 12h10M12 12v4M8 16h8',
  choices: [
    {
      choice: 'shunt',
      label: 'Shunt part',
      hint: 'a part across the line',
      make: () => ({ kind: 'shunt', rOhm: 1000, xOhm: 0 }),
    },
  ],
}

function partSteps(stage: Part, solution: Solution, k: number): Steps {
  const after = solution.planes[k + 1]!
  const series = stage.kind === 'series'
  return {
    steps: [
      {
        what: series ? 'Current through it, RMS' : 'Voltage across it, RMS',
        sum: series ? '|I| at its plane' : '|V| at its plane',
        result: series ? formatAmpere(after.currentRms) : formatVolt(after.voltageRms),
      },
      {
        what: 'Its heat',
        sum: series ? '|I|²·R' : '|V|²·R / (R² + X²)',
        result: formatPower(solution.stages[k]!.lossW),
      },
    ],
    remarks: [],
    sources: [POZAR],
  }
}
