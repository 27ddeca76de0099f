/** Workings of what is not a plain two-port: tuners, amplifiers, measured parts. */
import type { AmplifierDocument, StageDocument, TunerDocument } from '@saltline/contract'
import {
  amplifierOutputW,
  decimals,
  formatAmpere,
  formatCapacitance,
  formatDb,
  formatFrequency,
  formatInductance,
  formatPercent,
  formatPower,
  formatSwr,
  formatVolt,
  inputImpedance,
  formatImpedance,
  type Solution,
  type TunerState,
} from '@saltline/core'
import { POZAR, RAPP } from './sources.ts'
import type { Working } from './working.ts'

type Steps = Omit<Working, 'title'>

export function measuredSteps({
  frequencyHz,
}: Extract<StageDocument, { kind: 'measured' }>): Steps {
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

export const elementName = ({ place, part }: TunerState['elements'][number]): string =>
  `${part === 'coil' ? 'Coil' : 'Capacitor'} ${place === 'series' ? 'in line' : 'across'}`

export const elementValue = ({ part, value }: TunerState['elements'][number]): string =>
  part === 'coil' ? formatInductance(value) : formatCapacitance(value)

export function tunerSteps(tuner: TunerDocument, state: TunerState): Steps {
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

export function amplifierSteps(amplifier: AmplifierDocument, solution: Solution, k: number): Steps {
  const state = solution.stages[k]!.amplifier!
  const input = inputImpedance(amplifier, solution.frequencyHz)
  const gained = amplifierOutputW(amplifier, state.driveW) / state.driveW
  return {
    steps: [
      {
        what: 'What the exciter sees behind the stages between',
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
      'Two legs: the exciter drives the amplifier’s input, the amplifier drives what is behind it.',
      'Compression follows Rapp’s curve through small-signal gain and the drive for full output.',
    ],
    sources: [RAPP],
  }
}
