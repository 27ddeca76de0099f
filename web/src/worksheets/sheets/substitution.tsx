import {
  decimals,
  formatPower,
  substitution as reduceSubstitution,
  InputError,
} from '@saltline/core'
import { meterOf, MeterChoice } from '../MeterChoice.tsx'
import { type Column, filled, PointTable, type Row } from '../PointTable.tsx'
import { SectionLength } from '../SectionLength.tsx'
import type { Worksheet } from '../worksheet.ts'
import { lossResult } from './loss.ts'

type Key = 'mhz' | 'directW' | 'throughW'
const columns: Column<Key>[] = [
  { key: 'mhz', label: 'Frequency', unit: 'MHz', min: 0.01, max: 6000 },
  { key: 'directW', label: 'Short lead', unit: 'W', min: 0, max: 1e5 },
  { key: 'throughW', label: 'Cable in between', unit: 'W', min: 0, max: 1e5 },
]

interface Inputs {
  meter: string
  lengthM: number | null
  sameRange: boolean
  points: Row<Key>[]
}

export const substitution: Worksheet<Inputs> = {
  aboutSection: true,
  initial: {
    meter: '',
    lengthM: null,
    sameRange: true,
    points: [
      { mhz: 7, directW: null, throughW: null },
      { mhz: 14, directW: null, throughW: null },
      { mhz: 28, directW: null, throughW: null },
    ],
  },
  setup: () => [
    { when: 'first', pieces: ['transmitter', 'short lead', 'meter', 'load'] },
    { when: 'then', pieces: ['transmitter', 'cable', 'meter', 'load'] },
  ],
  steps: [
    'Steady carrier, low enough for load and meter; note the watts with the short lead.',
    'Put the cable in between, change nothing else, note the watts again.',
    'The same at every frequency. Key no longer than the reading takes.',
  ],
  caution: 'The load gets hot. Never key without it.',
  proves: [
    'What the piece takes between matched ends, at these frequencies.',
    'A loss that grows with frequency is the cable; one that does not is a joint.',
  ],
  doesNot: ['What it takes on the mast, wet and mismatched.', 'Where along the cable it is lost.'],
  Fields: ({ inputs, put, station, subject }) => (
    <div className="space-y-2.5">
      <div className="grid grid-cols-2 gap-2">
        <MeterChoice station={station} value={inputs.meter} onChange={(meter) => put({ meter })} />
        <SectionLength inputs={inputs} put={put} subject={subject} />
      </div>
      <PointTable columns={columns} rows={inputs.points} onChange={(points) => put({ points })} />
      <label className="flex items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="accent-tide"
          checked={inputs.sameRange}
          onChange={({ target }) => put({ sameRange: target.checked })}
        />
        both on one meter and one range, so that its scale error is shared
      </label>
    </div>
  ),
  reduce(inputs, station, subject) {
    const points = filled(inputs.points, ['mhz', 'directW', 'throughW']).map(
      ({ mhz, directW, throughW }) => ({ frequencyHz: mhz * 1e6, directW, throughW }),
    )
    if (points.length === 0)
      throw new InputError('Fill in one line: frequency, and both readings.', ['points'])
    const lengthM = inputs.lengthM ?? subject?.lengthM ?? null
    const losses = reduceSubstitution({
      meter: meterOf(station, inputs.meter),
      points,
      lengthM: lengthM ?? undefined,
      sharedError: inputs.sameRange,
    })
    return lossResult(
      losses,
      subject,
      lengthM,
      points.map(
        ({ directW, throughW }, i) =>
          `10·log₁₀(${formatPower(directW)} / ${formatPower(throughW)}) = ${decimals(losses[i]!.lossDb.value, 2)}\u00a0dB`,
      ),
    )
  },
}
