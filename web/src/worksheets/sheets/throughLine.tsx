import {
  decimals,
  formatDb,
  formatPercent,
  formatPower,
  formatSwr,
  InputError,
  throughLine as reduceThroughLine,
  wattsToDbm,
} from '@saltline/core'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { meterOf, MeterChoice } from '../MeterChoice.tsx'
import { leadOf, type Worksheet, withRange } from '../worksheet.ts'

interface Inputs {
  meter: string
  forwardW: number | null
  reflectedW: number | null
  forwardRangeW: number | null
  reflectedRangeW: number | null
}

export const throughLine: Worksheet<Inputs> = {
  initial: {
    meter: '',
    forwardW: null,
    reflectedW: null,
    forwardRangeW: null,
    reflectedRangeW: null,
  },
  setup: () => [{ when: '', pieces: ['transmitter', 'meter', 'cable', 'antenna'] }],
  steps: [
    'Steady carrier. Read forward on the smallest range that holds it.',
    'Read reflected, on a smaller range if there is one.',
  ],
  proves: ['Net power through the meter, and the SWR where the meter is.'],
  doesNot: [
    'The SWR at the antenna: loss in the line hides it.',
    'An SWR better than the meter’s own directivity can see.',
  ],
  Fields: ({ inputs, put, station }) => {
    const { rangesW } = meterOf(station, inputs.meter)
    return (
      <div className="grid grid-cols-2 gap-2">
        <div className="col-span-2">
          <MeterChoice
            station={station}
            value={inputs.meter}
            onChange={(meter) => put({ meter })}
          />
        </div>
        <OptionalField
          label="Forward"
          value={inputs.forwardW}
          onChange={(forwardW) => put({ forwardW })}
          dimension="power"
          unit="W"
          min={0}
          max={1e6}
        />
        <OptionalField
          label="Reflected"
          value={inputs.reflectedW}
          onChange={(reflectedW) => put({ reflectedW })}
          dimension="power"
          unit="W"
          min={0}
          max={1e6}
        />
        {rangesW.length > 0 && (
          <>
            <OptionalField
              label="Forward read on range"
              value={inputs.forwardRangeW}
              onChange={(forwardRangeW) => put({ forwardRangeW })}
              unit="W"
              min={0.001}
              max={1e6}
              hint="smallest that fits unless given"
            />
            <OptionalField
              label="Reflected read on range"
              value={inputs.reflectedRangeW}
              onChange={(reflectedRangeW) => put({ reflectedRangeW })}
              unit="W"
              min={0.001}
              max={1e6}
            />
          </>
        )}
      </div>
    )
  },
  reduce({ meter: id, forwardW, reflectedW, forwardRangeW, reflectedRangeW }, station) {
    if (forwardW === null || reflectedW === null)
      throw new InputError('Give forward and reflected power.', ['forwardW'])
    const meter = meterOf(station, id)
    const r = reduceThroughLine({ forwardW, reflectedW }, meter, {
      forwardW: forwardRangeW,
      reflectedW: reflectedRangeW,
    })
    const blind = r.rho < 10 ** (-(meter.directivityDb ?? Infinity) / 20)
    return {
      answer: `SWR ${withRange(r.swr, 2, '')}; ${withRange(r.net, 1, 'W')} go through.`,
      lead: leadOf('SWR', '', r.swr),
      rows: [
        ['SWR', withRange(r.swr, 2, '')],
        [
          'Directivity alone leaves',
          `${formatSwr(r.swrRange.low)} to ${formatSwr(r.swrRange.high)}`,
        ],
        ['|ρ|', decimals(r.rho, 3)],
        ['Return loss', formatDb(r.returnLossDb)],
        ['Reflected', formatPercent(r.returned)],
        ['Mismatch loss', formatDb(r.mismatchLossDb)],
        ['Net power', withRange(r.net, 1, 'W')],
        ['Forward', `${decimals(wattsToDbm(forwardW), 1)}\u00a0dBm`],
        ['Best SWR this meter can see', formatSwr(r.bestSwrSeen)],
      ],
      because: r.swr.because,
      working: [
        `|ρ| = √(${formatPower(reflectedW)} / ${formatPower(forwardW)}) = ${decimals(r.rho, 3)}`,
        `SWR = (1 + |ρ|) / (1 − |ρ|) = ${formatSwr(r.swr.value)}`,
        `net = ${formatPower(forwardW)} − ${formatPower(reflectedW)} = ${decimals(r.net.value, 1)}\u00a0W`,
      ],
      ...(blind && {
        mind: 'The meter sees its own leak more than this reflection: take the SWR as “good”, not as a figure.',
      }),
    }
  },
}
