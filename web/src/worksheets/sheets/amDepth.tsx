import { decimals, formatPercent, formatPower, InputError, modulationDepth } from '@saltline/core'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { meterOf, MeterChoice } from '../MeterChoice.tsx'
import { leadOf, type Worksheet, withRange } from '../worksheet.ts'

interface Inputs {
  meter: string
  carrierW: number | null
  pepW: number | null
}

export const amDepth: Worksheet<Inputs> = {
  initial: { meter: '', carrierW: null, pepW: null },
  setup: () => [{ when: '', pieces: ['transmitter', 'meter', 'load'] }],
  steps: [
    'Carrier alone into the load: note the watts.',
    'Speak, or send a tone, as on the air; note the peak envelope power on a meter that holds peaks.',
  ],
  caution: 'The load gets hot. Never key without it.',
  proves: ['How deep the loudest syllables modulate.'],
  doesNot: ['Whether it is clean: a distorted peak is a peak too. A scope shows that.'],
  Fields: ({ inputs, put, station }) => (
    <div className="grid grid-cols-2 gap-2">
      <div className="col-span-2">
        <MeterChoice station={station} value={inputs.meter} onChange={(meter) => put({ meter })} />
      </div>
      <OptionalField
        label="Carrier"
        dimension="power"
        unit="W"
        min={0.001}
        max={1e6}
        value={inputs.carrierW}
        onChange={(carrierW) => put({ carrierW })}
      />
      <OptionalField
        label="Peak envelope power"
        dimension="power"
        unit="W"
        min={0.001}
        max={1e6}
        value={inputs.pepW}
        onChange={(pepW) => put({ pepW })}
      />
    </div>
  ),
  reduce({ meter: id, carrierW, pepW }, station) {
    if (carrierW === null || pepW === null)
      throw new InputError('Give the carrier and the peak envelope power.', ['carrierW'])
    const meter = meterOf(station, id)
    const { depth, averageW, leastCarrierW } = modulationDepth(carrierW, pepW, meter)
    const percent = {
      value: 100 * depth.value,
      low: 100 * depth.low,
      high: 100 * depth.high,
    }
    return {
      answer: `Modulation depth ${withRange(percent, 0, '%')}.`,
      lead: leadOf('depth', '%', percent),
      rows: [
        ['PEP over carrier', decimals(pepW / carrierW, 2)],
        ['Average with a full tone', formatPower(averageW)],
        [
          'Least carrier this meter can resolve',
          leastCarrierW === null
            ? 'none: it is too coarse'
            : leastCarrierW === 0
              ? 'any'
              : formatPower(leastCarrierW),
        ],
      ],
      because: depth.because,
      working: [
        `m = √(${formatPower(pepW)} / ${formatPower(carrierW)}) − 1 = ${formatPercent(depth.value)}`,
        `average = ${formatPower(carrierW)} · (1 + m²/2) = ${formatPower(averageW)}`,
      ],
      ...(meter.kind === 'averaging'
        ? { mind: 'This meter shows the average: it cannot show PEP. Choose one that holds peaks.' }
        : depth.value > 1.005
          ? { mind: 'More than 100 %: overmodulated, or the carrier moves with the voice.' }
          : leastCarrierW !== null && carrierW < leastCarrierW
            ? {
                mind: 'This carrier is too small for the range: the depth is not known to a tenth.',
              }
            : {}),
    }
  },
}
