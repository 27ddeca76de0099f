import { decimals, formatPower, InputError, twoMeters as reduceTwoMeters } from '@saltline/core'
import { firstMeter, meterOf, MeterChoice } from '../MeterChoice.tsx'
import { type Column, filled, PointTable, type Row } from '../PointTable.tsx'
import { leadOf, type Worksheet, withRange } from '../worksheet.ts'

type Key = 'firstW' | 'secondW'
const columns: Column<Key>[] = [
  { key: 'firstW', label: 'First meter', unit: 'W', min: 0, max: 1e6 },
  { key: 'secondW', label: 'Second meter', unit: 'W', min: 0, max: 1e6 },
]
interface Inputs {
  first: string
  second: string
  pairs: Row<Key>[]
}

export const twoMeters: Worksheet<Inputs> = {
  initial: { first: '', second: '', pairs: [{ firstW: null, secondW: null }] },
  setup: () => [{ when: '', pieces: ['transmitter', 'meter', 'second meter', 'load'] }],
  steps: [
    'Both in one line, close together, into the load. Read both at several powers.',
    'Swap their places and read again: what moves with the place is the lead between them.',
  ],
  proves: ['Whether both can be right within what they promise.'],
  doesNot: ['Which of two that differ is wrong: a third has to say.'],
  Fields: ({ inputs, put, station }) => (
    <div className="space-y-2.5">
      <div className="grid grid-cols-2 gap-2">
        <MeterChoice
          station={station}
          label="First meter"
          value={inputs.first}
          onChange={(first) => put({ first })}
        />
        <MeterChoice
          station={station}
          label="Second meter"
          value={inputs.second}
          beside={inputs.first || firstMeter(station)}
          onChange={(second) => put({ second })}
        />
      </div>
      <PointTable columns={columns} rows={inputs.pairs} onChange={(pairs) => put({ pairs })} />
    </div>
  ),
  reduce({ first, second, pairs: rows }, station) {
    const pairs = filled(rows, ['firstW', 'secondW'])
    if (pairs.length === 0)
      throw new InputError('Read both meters at one power at least.', ['pairs'])
    const r = reduceTwoMeters(
      meterOf(station, first),
      meterOf(station, second, first || firstMeter(station)),
      pairs,
    )
    const middle = r.pairs.reduce((a, b) =>
      Math.abs(b.db.value - r.middleDb) < Math.abs(a.db.value - r.middleDb) ? b : a,
    )
    return {
      answer: r.agree
        ? `They agree: the second shows ${withRange(middle.db, 2, 'dB')} over the first, within what both promise.`
        : `They do not agree: the second shows ${withRange(middle.db, 2, 'dB')} over the first, more than both may be off.`,
      lead: leadOf('second over first', 'dB', middle.db),
      rows: [
        ...pairs.map(
          ({ firstW, secondW }, i) =>
            [
              `${formatPower(firstW)} and ${formatPower(secondW)}`,
              `${withRange(r.pairs[i]!.db, 2, 'dB')}, ${r.pairs[i]!.agree ? 'agree' : '▲ apart'}`,
            ] as const,
        ),
        ['Middle', `${decimals(r.middleDb, 2)}\u00a0dB`],
        ['Moves from low to high power by', `${decimals(r.slopeDb, 2)}\u00a0dB`],
      ],
      because: middle.db.because,
      working: pairs.map(
        ({ firstW, secondW }, i) =>
          `10·log₁₀(${formatPower(secondW)} / ${formatPower(firstW)}) = ${decimals(r.pairs[i]!.db.value, 2)}\u00a0dB`,
      ),
    }
  },
}
