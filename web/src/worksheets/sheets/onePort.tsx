import { decimals, InputError, onePort as reduceOnePort } from '@saltline/core'
import { lossRows } from '../../model/benchSweep.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { type Column, PointTable, type Row } from '../PointTable.tsx'
import { SectionLength } from '../SectionLength.tsx'
import { SweepSource } from '../SweepSource.tsx'
import type { Worksheet } from '../worksheet.ts'
import { lossResult } from './loss.ts'

type Key = 'mhz' | 'openDb' | 'shortDb'
const columns: Column<Key>[] = [
  { key: 'mhz', label: 'Frequency', unit: 'MHz', min: 0.01, max: 6000 },
  { key: 'openDb', label: 'Return loss, open', unit: 'dB', min: 0, max: 80 },
  { key: 'shortDb', label: 'shorted', unit: 'dB', min: 0, max: 80 },
]

interface Inputs {
  lengthM: number | null
  accuracyDb: number | null
  directivityDb: number | null
  points: Row<Key>[]
  sweptEnd: 'open' | 'short'
}

export const onePort: Worksheet<Inputs> = {
  aboutSection: true,
  initial: {
    lengthM: null,
    accuracyDb: 0.3,
    directivityDb: 40,
    points: [{ mhz: 30, openDb: null, shortDb: null }],
    sweptEnd: 'open',
  },
  setup: () => [
    { when: 'first', pieces: ['analyser', 'cable', 'open end'] },
    { when: 'then', pieces: ['analyser', 'cable', 'short'] },
  ],
  steps: [
    'Disconnect the antenna; leave the far end open. Read the return loss at each frequency.',
    'Short the far end, read again. Either alone will do; both together cancel most of the rest.',
  ],
  caution: 'Before an analyser touches an antenna line: transmitters off, and static discharged.',
  proves: [
    'What the line takes one way: the wave pays twice, so the loss is half of the return loss.',
  ],
  doesNot: [
    'More than about half of the analyser’s directivity: beyond it reads its own leak.',
    'What a joint does that only fails warm or under power.',
  ],
  Fields: ({ inputs, put, subject }) => (
    <div className="space-y-2.5">
      <div className="grid grid-cols-3 gap-2">
        <SectionLength inputs={inputs} put={put} subject={subject} />
        <OptionalField
          label="Accuracy, ±"
          value={inputs.accuracyDb}
          onChange={(accuracyDb) => put({ accuracyDb })}
          unit="dB"
          min={0}
          max={10}
        />
        <OptionalField
          label="Directivity"
          value={inputs.directivityDb}
          onChange={(directivityDb) => put({ directivityDb })}
          unit="dB"
          min={3}
          max={80}
        />
      </div>
      <div className="flex flex-wrap items-end gap-2">
        <ChoiceField
          label="Far end in the sweep"
          value={inputs.sweptEnd}
          options={[
            { value: 'open', label: 'open' },
            { value: 'short', label: 'shorted' },
          ]}
          onChange={(sweptEnd) => put({ sweptEnd })}
        />
        <SweepSource
          subject={subject}
          onSweep={(sweep, farEnd) => put({ points: lossRows(sweep, farEnd ?? inputs.sweptEnd) })}
        />
      </div>
      <PointTable columns={columns} rows={inputs.points} onChange={(points) => put({ points })} />
    </div>
  ),
  reduce(inputs, _, subject) {
    const points = inputs.points.flatMap(({ mhz, openDb, shortDb }) =>
      mhz === null || (openDb === null && shortDb === null)
        ? []
        : [
            {
              frequencyHz: mhz * 1e6,
              ...(openDb !== null && { openDb }),
              ...(shortDb !== null && { shortDb }),
            },
          ],
    )
    if (points.length === 0)
      throw new InputError(
        'Fill in one line: a frequency, and the return loss open, shorted, or both.',
        [],
      )
    const lengthM = inputs.lengthM ?? subject?.lengthM ?? null
    const losses = reduceOnePort({
      points,
      lengthM: lengthM ?? undefined,
      accuracyDb: inputs.accuracyDb ?? 0,
      directivityDb: inputs.directivityDb ?? 80,
    })
    return lossResult(
      losses,
      subject,
      lengthM,
      points.map(({ openDb, shortDb }, i) => {
        const seen = [openDb, shortDb].filter((db) => db !== undefined)
        return `(${seen.map((db) => decimals(db, 1)).join(' + ')}) / ${2 * seen.length} = ${decimals(losses[i]!.lossDb.value, 2)}\u00a0dB`
      }),
    )
  },
}
