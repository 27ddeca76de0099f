import { type CableDocument, limits, lineFigures, type StageDocument } from '@saltline/contract'
import {
  attenuationDbPer100m,
  type CableClass,
  cableClasses,
  conductorDbPer100m,
  decimals,
  dielectricDbPer100m,
  formatDb,
  formatFrequency,
  formatLength,
  isExtrapolated,
  magnitude,
  type Solution,
  textbookLineLossDb,
} from '@saltline/core'
import { arrow, same } from '../same.ts'
import { CHIPMAN, POZAR, SKIN } from '../sources.ts'
import type { Steps } from '../working.ts'
import { figureChanges } from './figureWords.ts'
import type { StageKind } from './stageKind.ts'

type Line = Extract<StageDocument, { kind: 'line' }>

/** A chain takes its own copy of a catalogue class, as far up as a chain goes. */
export function copyOfClass(of: CableClass): CableDocument {
  const { id: gearId, name, z0Ohm, velocityFactor, k1DbPer100m, k2DbPer100m } = of
  const maxHz = Math.min(of.maxHz, limits.frequencyHz[1])
  return { gearId, name, z0Ohm, velocityFactor, k1DbPer100m, k2DbPer100m, maxHz }
}

/** A short lead to begin with. */
export const usualCable = (): CableDocument =>
  copyOfClass(cableClasses.find(({ id }) => id === 'pe-5')!)

export const line: StageKind<Line> = {
  title: () => 'Cable',
  icon: () => null,
  figure: ({ lengthM }, _hz, unit) => formatLength(lengthM, unit),
  changes: (a, b) => [
    ...figureChanges(lineFigures, a, b),
    ...(same(a.cable, b.cable)
      ? []
      : [a.cable.name === b.cable.name ? 'cable figures' : arrow(a.cable.name, b.cable.name)]),
    ...(same(a.ageing, b.ageing) ? [] : ['loss above new']),
    ...(same(a.lossKnown, b.lossKnown) ? [] : ['how well its loss is known']),
  ],
  steps: lineSteps,
  choices: [
    {
      choice: 'line',
      label: 'Cable',
      hint: 'a length of coax',
      make: () => ({ kind: 'line', lengthM: 1, cable: usualCable() }),
    },
  ],
}

function lineSteps({ cable, lengthM }: Line, solution: Solution, k: number): Steps {
  const hz = solution.frequencyHz
  const line = solution.stages[k]!.line!
  const after = solution.planes[k + 1]!
  const rho = magnitude(after.reflection)
  const matched = line.matchedLossDb
  const exact = solution.stages[k]!.lossDb
  return {
    steps: [
      {
        what: `Attenuation at ${formatFrequency(hz)}`,
        sum: `k₁√f + k₂f = ${decimals(conductorDbPer100m(cable, hz), 3)} + ${decimals(dielectricDbPer100m(cable, hz), 3)}`,
        result: `${decimals(attenuationDbPer100m(cable, hz), 3)} dB/100 m`,
      },
      {
        what: 'Matched loss of this length',
        sum: `Re γ · ${decimals(lengthM, 2)} m, γ = √((R + jωL)(G + jωC))`,
        result: formatDb(matched),
      },
      {
        what: 'Added by the standing wave',
        sum: `exact loss ${formatDb(exact)} − matched`,
        result: formatDb(exact - matched),
      },
      {
        what: 'For comparison, the textbook formula (takes Z₀ as real)',
        sum: `10·log₁₀((a² − |ρ|²)/(a(1 − |ρ|²))), |ρ| = ${decimals(rho, 3)}`,
        result: rho < 1 ? formatDb(textbookLineLossDb(matched, rho)) : '–',
      },
    ],
    remarks: [
      `${cable.name}: ${cable.gearId ? 'values typical of its class, not of any one make' : 'values as entered'}.`,
      'The circuit is solved exactly with a complex Zc; on thin cable at low frequency that differs from the textbook figure.',
      ...(isExtrapolated(cable, hz)
        ? ['Extrapolated: this frequency lies outside what the cable’s data covers.']
        : []),
    ],
    sources: [POZAR, SKIN, CHIPMAN],
  }
}
