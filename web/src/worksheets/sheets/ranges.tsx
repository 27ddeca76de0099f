import {
  chooseRange,
  decimals,
  formatPower,
  formatSwr,
  InputError,
  modeTable,
  type ModeId,
} from '@saltline/core'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { meterOf, MeterChoice } from '../MeterChoice.tsx'
import type { Worksheet } from '../worksheet.ts'

interface Inputs {
  meter: string
  pepW: number | null
  mode: ModeId
  swr: number | null
}

export const ranges: Worksheet<Inputs> = {
  initial: { meter: '', pepW: 100, mode: 'key-down', swr: 1.5 },
  setup: () => [{ when: '', pieces: ['transmitter', 'meter', 'load'] }],
  steps: [
    'Say what you will send and what SWR you expect; take the element or range that is named.',
  ],
  proves: ['How far off a reading on each range may be.'],
  doesNot: ['That the meter keeps what its maker promises: compare two.'],
  Fields: ({ inputs, put, station }) => (
    <div className="grid grid-cols-2 gap-2">
      <MeterChoice station={station} value={inputs.meter} onChange={(meter) => put({ meter })} />
      <ChoiceField<ModeId>
        label="Mode"
        value={inputs.mode}
        options={modeTable.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(mode) => put({ mode })}
      />
      <OptionalField
        label="Power, PEP"
        value={inputs.pepW}
        onChange={(pepW) => put({ pepW })}
        dimension="power"
        unit="W"
        min={0.001}
        max={1e6}
      />
      <OptionalField
        label="SWR expected"
        value={inputs.swr}
        onChange={(swr) => put({ swr })}
        min={1}
        max={100}
      />
    </div>
  ),
  reduce({ meter: id, pepW, mode, swr }, station) {
    if (pepW === null) throw new InputError('Give the power.', ['pepW'])
    const meter = meterOf(station, id)
    const choice = chooseRange(meter, pepW, { mode }, swr ?? 1)
    const range = (w: number | null) => (w === null ? 'none that is large enough' : formatPower(w))
    const own = meter.rangesW.length === 0
    return {
      answer: own
        ? `The meter finds its own range; it will show ${formatPower(choice.forwardW)} forward, ${formatPower(choice.reflectedW)} reflected.`
        : choice.forwardRangeW === null
          ? `Too much for this meter: ${formatPower(choice.forwardW)} are more than its largest range. Put an attenuator in, or turn down.`
          : `Forward on ${range(choice.forwardRangeW)}, reflected on ${range(choice.reflectedRangeW)}.`,
      lead: null,
      rows: [
        ['The meter will show, forward', formatPower(choice.forwardW)],
        ['reflected', formatPower(choice.reflectedW)],
        ...choice.rows.map(
          ({ rangeW, ofScale, doubtDb, fits }) =>
            [
              `on the ${formatPower(rangeW)} range`,
              fits
                ? `${decimals(ofScale * 100, 0)}\u00a0% of the scale, ${Number.isFinite(doubtDb) ? `to within ${decimals(doubtDb, 1)}\u00a0dB` : 'may be nothing'}`
                : 'off the scale',
            ] as const,
        ),
        ['Below this SWR, reflected power is too small for its range', formatSwr(choice.blindSwr)],
        ['and below this one, for the directivity', formatSwr(choice.directivitySwr)],
      ],
      working: [
        `shown = PEP × mean over peak = ${formatPower(choice.forwardW)}`,
        `reflected = shown × |ρ|² = ${formatPower(choice.reflectedW)}`,
      ],
    }
  },
}
