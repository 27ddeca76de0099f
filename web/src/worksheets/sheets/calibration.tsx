import { calibrate, decimals, formatPercent, formatPower, InputError } from '@saltline/core'
import { metersOf } from '../../model/places.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { meterOf, MeterChoice } from '../MeterChoice.tsx'
import { type Column, filled, PointTable, type Row } from '../PointTable.tsx'
import { leadOf, type Worksheet } from '../worksheet.ts'

type Key = 'shownW' | 'trueW'
const columns: Column<Key>[] = [
  { key: 'shownW', label: 'It shows', unit: 'W', min: 0, max: 1e6 },
  { key: 'trueW', label: 'The known one shows', unit: 'W', min: 0, max: 1e6 },
]

interface Inputs {
  instrument: string
  known: string
  pairs: Row<Key>[]
}

export const calibration: Worksheet<Inputs> = {
  initial: { instrument: '', known: '', pairs: [{ shownW: null, trueW: null }] },
  setup: () => [{ when: '', pieces: ['transmitter', 'meter', 'second meter', 'load'] }],
  steps: [
    'Both in one line, close together, into the load.',
    'Steady carrier at several powers, from the lowest that is read to the highest; read both.',
    'Some powers twice or more: what they differ by is part of the uncertainty.',
    'A probe or a home-made meter: enter its marks or volts squared as watts of its own.',
  ],
  caution: 'The load gets hot. Never key without it.',
  proves: ['By how much its readings have to be corrected, at these powers.'],
  doesNot: [
    'That the known one is right.',
    'How it reads on other frequencies or into a mismatch.',
  ],
  Fields: ({ inputs, put, station }) => {
    const own = metersOf(station)
    return (
      <div className="space-y-2.5">
        <div className="grid grid-cols-2 gap-2">
          <ChoiceField
            label="Instrument to be calibrated"
            value={inputs.instrument || (own[0]?.id ?? '')}
            options={
              own.length > 0
                ? own.map(({ id, document }) => ({ value: id, label: document.name }))
                : [{ value: '', label: 'none: add it in Gear' }]
            }
            onChange={(instrument) => put({ instrument })}
          />
          <MeterChoice
            station={station}
            label="Known meter"
            value={inputs.known}
            beside={inputs.instrument || own[0]?.id}
            onChange={(known) => put({ known })}
          />
        </div>
        <PointTable columns={columns} rows={inputs.pairs} onChange={(pairs) => put({ pairs })} />
      </div>
    )
  },
  reduce({ instrument, known, pairs: rows }, station) {
    const pairs = filled(rows, ['shownW', 'trueW'])
    if (pairs.length === 0) throw new InputError('Read both at one power at least.', ['pairs'])
    const own = metersOf(station)
    const chosen = own.find(({ id }) => id === instrument) ?? own[0]
    const { points, doubt, scatter } = calibrate(pairs, meterOf(station, known, chosen?.id))
    const worst = points.reduce((a, b) =>
      Math.abs(Math.log(b[1] / b[0])) > Math.abs(Math.log(a[1] / a[0])) ? b : a,
    )
    const off = worst[0] / worst[1] - 1
    const sign = (share: number) => `${share < 0 ? '−' : '+'}${formatPercent(Math.abs(share))}`
    return {
      answer: `${chosen?.document.name ?? 'It'} is off by up to ${sign(off)}; corrected, it is good to ± ${formatPercent(doubt)}.`,
      lead: leadOf('reads over true', '%', {
        value: 100 * off,
        low: 100 * (off - doubt),
        high: 100 * (off + doubt),
      }),
      rows: points.map(([shownW, trueW]) => [
        `${formatPower(shownW)} shown`,
        `${formatPower(trueW)}, factor ${decimals(trueW / shownW, 3)}`,
      ]),
      working: [
        'factor = known / shown; between the points straight over the logarithm of power, held beyond them',
        `uncertainty: that of the known meter and a scatter of ${formatPercent(scatter)}, in squares`,
      ],
      ...(points.length > 1 && {
        chart: {
          x: points.map(([shownW]) => shownW),
          unit: 'W' as const,
          values: points.map(([shownW, trueW]) => trueW / shownW),
          name: 'Factor of what is shown',
        },
      }),
      table: {
        name: 'Scale card',
        head: ['shown, W', 'true, W', 'factor'],
        rows: points.map(([shownW, trueW]) => [
          decimals(shownW, 1),
          decimals(trueW, 1),
          decimals(trueW / shownW, 3),
        ]),
      },
      ...(chosen && {
        calibration: { instrumentId: chosen.id, name: chosen.document.name, points, doubt },
      }),
    }
  },
}
