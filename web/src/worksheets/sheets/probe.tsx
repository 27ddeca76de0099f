import { decimals, formatVolt, InputError, probePower } from '@saltline/core'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { leadOf, type Worksheet, withRange } from '../worksheet.ts'

const fields = [
  ['volts', 'Voltmeter shows', 'V'],
  ['voltsDoubt', 'known to ±', 'V'],
  ['divider', 'Divider, line over diode', ''],
  ['dividerDoubt', 'known to ±', ''],
  ['diodeV', 'Diode drop, at the line', 'V'],
  ['diodeDoubt', 'known to ±', 'V'],
  ['ohm', 'Load', 'Ω'],
  ['ohmDoubt', 'known to ±', 'Ω'],
] as const
type Inputs = Record<(typeof fields)[number][0], number | null>

export const probe: Worksheet<Inputs> = {
  initial: {
    volts: null,
    voltsDoubt: 0.1,
    divider: 1,
    dividerDoubt: 0,
    diodeV: 0.3,
    diodeDoubt: 0.15,
    ohm: 50,
    ohmDoubt: 0.5,
  },
  setup: () => [{ when: '', pieces: ['transmitter', 'short lead', 'probe', 'load'] }],
  steps: [
    'Measure the load with an ohmmeter first.',
    'Steady carrier into the load; read the DC volts behind the diode.',
    'Check the drop once against a known power: it is the largest uncertainty at low power.',
  ],
  caution:
    'A hundred watts put 100 V peak on the line, a kilowatt over 300 V. Hands off while it is keyed; keep within the diode’s voltage.',
  proves: ['Peak envelope power into this load, if the carrier is steady.'],
  doesNot: [
    'Power into anything but the load.',
    'Much below a watt, where the diode’s drop is most of the voltage.',
  ],
  Fields: ({ inputs, put }) => (
    <div className="grid grid-cols-2 gap-2">
      {fields.map(([key, label, unit]) => (
        <OptionalField
          key={key}
          label={label}
          value={inputs[key]}
          onChange={(value) => put({ [key]: value })}
          unit={unit}
          min={0}
          max={1e5}
        />
      ))}
    </div>
  ),
  reduce(i) {
    if (i.volts === null) throw new InputError('Give what the voltmeter shows.', ['volts'])
    const r = probePower({
      volts: { value: i.volts, doubt: i.voltsDoubt ?? 0 },
      divider: { value: i.divider ?? 1, doubt: i.dividerDoubt ?? 0 },
      diodeV: { value: i.diodeV ?? 0, doubt: i.diodeDoubt ?? 0 },
      ohm: { value: i.ohm ?? 50, doubt: i.ohmDoubt ?? 0 },
    })
    return {
      answer: `${withRange(r.watts, r.watts.value < 10 ? 2 : 1, 'W')} PEP.`,
      lead: leadOf('power', 'W', r.watts),
      rows: [
        ['Power, PEP', withRange(r.watts, 1, 'W')],
        ['On the line, peak', formatVolt(r.peakV)],
        ['RMS', formatVolt(r.rmsV)],
      ],
      because: r.watts.because,
      working: [
        `V_peak = ${decimals(i.volts, 2)} · ${decimals(i.divider ?? 1, 2)} + ${decimals(i.diodeV ?? 0, 2)} = ${decimals(r.peakV, 2)}\u00a0V`,
        `P = (V_peak / √2)² / R = ${decimals(r.rmsV, 2)}² / ${decimals(i.ohm ?? 50, 1)} = ${decimals(r.watts.value, 2)}\u00a0W`,
      ],
    }
  },
}
