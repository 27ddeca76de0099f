import { bothEnds as reduceBothEnds, decimals, formatPower, InputError } from '@saltline/core'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { meterOf, MeterChoice } from '../MeterChoice.tsx'
import { leadOf, type Worksheet, withRange } from '../worksheet.ts'
import { sheetLossDb } from './loss.ts'

interface Inputs {
  nearMeter: string
  farMeter: string
  mhz: number | null
  nearForwardW: number | null
  nearReflectedW: number | null
  farForwardW: number | null
  farReflectedW: number | null
}

const watts = [
  ['nearForwardW', 'Near end, forward'],
  ['nearReflectedW', 'Near end, reflected'],
  ['farForwardW', 'Far end, forward'],
  ['farReflectedW', 'Far end, reflected'],
] as const

export const bothEnds: Worksheet<Inputs> = {
  aboutSection: true,
  initial: {
    nearMeter: '',
    farMeter: '',
    mhz: null,
    nearForwardW: null,
    nearReflectedW: null,
    farForwardW: null,
    farReflectedW: null,
  },
  setup: () => [{ when: '', pieces: ['transmitter', 'meter', 'cable', 'second meter', 'antenna'] }],
  steps: [
    'A meter at the radio, another at the feed point; the same one carried up will do.',
    'Steady carrier on a clear frequency; read forward and reflected at both ends.',
    'If one meter is carried, check that the power has not moved meanwhile.',
  ],
  caution:
    'Nobody touches the antenna end while it is keyed. Heights and RF: two people, and a plan.',
  proves: ['What the line takes at this moment, with its mismatch and its weather.'],
  doesNot: [
    'Which part of the line takes it.',
    'Less than the disagreement of the two meters: compare them on one line first.',
  ],
  Fields: ({ inputs, put, station }) => (
    <div className="grid grid-cols-2 gap-2">
      <MeterChoice
        station={station}
        label="Near meter"
        value={inputs.nearMeter}
        onChange={(nearMeter) => put({ nearMeter })}
      />
      <MeterChoice
        station={station}
        label="Far meter"
        value={inputs.farMeter}
        onChange={(farMeter) => put({ farMeter })}
      />
      {watts.map(([key, label]) => (
        <OptionalField
          key={key}
          label={label}
          value={inputs[key]}
          onChange={(value) => put({ [key]: value })}
          dimension="power"
          unit="W"
          min={0}
          max={1e6}
        />
      ))}
      <OptionalField
        label="Frequency"
        value={inputs.mhz}
        onChange={(mhz) => put({ mhz })}
        unit="MHz"
        min={0.01}
        max={6000}
      />
    </div>
  ),
  reduce(inputs, station, subject) {
    const { mhz, nearForwardW, nearReflectedW, farForwardW, farReflectedW } = inputs
    if (nearForwardW === null || farForwardW === null)
      throw new InputError(
        'Read forward power at both ends; reflected counts as 0 W until it is given.',
        [],
      )
    const near = { forwardW: nearForwardW, reflectedW: nearReflectedW ?? 0 }
    const far = { forwardW: farForwardW, reflectedW: farReflectedW ?? 0 }
    const { lossDb, matchedDb } = reduceBothEnds(
      { ...near, meter: meterOf(station, inputs.nearMeter) },
      { ...far, meter: meterOf(station, inputs.farMeter) },
    )
    const hz = mhz === null ? undefined : mhz * 1e6
    const sheetDb = hz === undefined ? null : sheetLossDb(subject, null, hz)
    const net = ({ forwardW, reflectedW }: typeof near) => forwardW - reflectedW
    return {
      answer: `The line takes ${withRange(lossDb, 2, 'dB')}: ${formatPower(net(near))} go in, ${formatPower(net(far))} come out.`,
      lead: leadOf('loss', 'dB', matchedDb, hz),
      rows: [
        ['Net in over net out', withRange(lossDb, 2, 'dB')],
        ['Forward over forward, as if matched', withRange(matchedDb, 2, 'dB')],
        ['Lost as heat', formatPower(Math.max(0, net(near) - net(far)))],
        ...(sheetDb === null
          ? []
          : ([['Data sheet, matched', `${decimals(sheetDb, 2)}\u00a0dB`]] as const)),
      ],
      because: lossDb.because,
      working: [
        `net near = ${formatPower(near.forwardW)} − ${formatPower(near.reflectedW)} = ${formatPower(net(near))}`,
        `net far = ${formatPower(far.forwardW)} − ${formatPower(far.reflectedW)} = ${formatPower(net(far))}`,
        `10·log₁₀(near / far) = ${decimals(lossDb.value, 2)}\u00a0dB`,
      ],
      ...(hz !== undefined && { loss: [[hz, matchedDb.value] as const] }),
      ...(sheetDb !== null && { sheetDb }),
      ...(lossDb.low <= 0 && {
        mind: 'Within their accuracy the two meters may be reading the same power: no loss is proved.',
      }),
    }
  },
}
