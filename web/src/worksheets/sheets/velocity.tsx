import {
  decimals,
  distanceToFault,
  electricalLength,
  firstDipHz,
  formatFrequency,
  InputError,
  significant,
  velocityFactor,
} from '@saltline/core'
import { dipsFrom } from '../../model/benchSweep.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { SectionLength } from '../SectionLength.tsx'
import { SweepSource } from '../SweepSource.tsx'
import { leadOf, type Worksheet, withRange } from '../worksheet.ts'

type Ask = 'factor' | 'fault'
interface Inputs {
  ask: Ask
  farEnd: 'open' | 'shorted'
  lengthM: number | null
  lengthDoubtM: number | null
  dipMhz: number | null
  quarterWaves: number | null
  factor: number | null
  secondMhz: number | null
  atMhz: number | null
}

/** A dip is found to about so much of its frequency. */
const DIP_SHARE = 0.004

export const velocity: Worksheet<Inputs> = {
  aboutSection: true,
  initial: {
    ask: 'factor',
    farEnd: 'open',
    lengthM: null,
    lengthDoubtM: 0.02,
    dipMhz: null,
    quarterWaves: 1,
    factor: null,
    secondMhz: null,
    atMhz: null,
  },
  setup: ({ farEnd }) => [
    { when: '', pieces: ['analyser', 'cable', farEnd === 'open' ? 'open end' : 'short'] },
  ],
  steps: [
    'Measure the length along the sheath, connectors and all.',
    'Sweep from low frequency up and note the first dip of the impedance.',
    'For a fault: note two dips next to each other; their spacing gives the distance.',
  ],
  proves: [
    'How fast waves run on this very cable, and so how long it is for them.',
    'How far it is to an open or a short.',
  ],
  doesNot: [
    'Anything about its loss.',
    'A fault that is neither open nor short dips less and may not show.',
  ],
  Fields: ({ inputs, put, subject }) => (
    <div className="grid grid-cols-2 gap-2">
      <ChoiceField<Ask>
        label="Wanted"
        value={inputs.ask}
        options={[
          { value: 'factor', label: 'velocity factor' },
          { value: 'fault', label: 'distance to a fault' },
        ]}
        onChange={(ask) => put({ ask })}
      />
      <ChoiceField<'open' | 'shorted'>
        label="Far end"
        value={inputs.farEnd}
        options={[
          { value: 'open', label: 'open' },
          { value: 'shorted', label: 'shorted' },
        ]}
        onChange={(farEnd) => put({ farEnd, quarterWaves: farEnd === 'open' ? 1 : 2 })}
      />
      <div className="col-span-2">
        <SweepSource
          subject={subject}
          onSweep={(sweep, kept) => {
            const end = kept ?? (inputs.farEnd === 'open' ? 'open' : 'short')
            put({ ...dipsFrom(sweep, end), farEnd: end === 'open' ? 'open' : 'shorted' })
          }}
        />
      </div>
      <OptionalField
        label={inputs.ask === 'factor' ? 'First dip' : 'One dip'}
        value={inputs.dipMhz}
        onChange={(dipMhz) => put({ dipMhz })}
        unit="MHz"
        min={0.01}
        max={6000}
      />
      {inputs.ask === 'factor' ? (
        <>
          <OptionalField
            label="Quarter waves at that dip"
            value={inputs.quarterWaves}
            onChange={(quarterWaves) => put({ quarterWaves })}
            min={1}
            max={99}
          />
          <SectionLength inputs={inputs} put={put} subject={subject} />
          <OptionalField
            label="Length known to ±"
            value={inputs.lengthDoubtM}
            onChange={(lengthDoubtM) => put({ lengthDoubtM })}
            unit="m"
            min={0}
            max={100}
          />
          <OptionalField
            label="How long is it on"
            value={inputs.atMhz}
            onChange={(atMhz) => put({ atMhz })}
            unit="MHz"
            min={0.01}
            max={6000}
          />
        </>
      ) : (
        <>
          <OptionalField
            label="The next dip"
            value={inputs.secondMhz}
            onChange={(secondMhz) => put({ secondMhz })}
            unit="MHz"
            min={0.01}
            max={6000}
          />
          <OptionalField
            label="Velocity factor"
            value={inputs.factor ?? subject?.cable?.velocityFactor ?? null}
            onChange={(factor) => put({ factor })}
            min={0.3}
            max={1}
          />
        </>
      )}
    </div>
  ),
  reduce(inputs, _, subject) {
    if (inputs.dipMhz === null) throw new InputError('Give the frequency of the dip.', ['dipMhz'])
    const dipHz = inputs.dipMhz * 1e6
    const dip = { value: dipHz, doubt: dipHz * DIP_SHARE }
    if (inputs.ask === 'fault') {
      const factor = inputs.factor ?? subject?.cable?.velocityFactor
      if (inputs.secondMhz === null || !factor)
        throw new InputError('Give the next dip and the velocity factor.', ['secondMhz'])
      const spacing = inputs.secondMhz * 1e6 - dipHz
      const distance = distanceToFault(
        { value: factor, doubt: 0.01 },
        { value: spacing, doubt: (dipHz + inputs.secondMhz * 1e6) * DIP_SHARE },
      )
      return {
        answer: `The line ends, or is broken, after ${withRange(distance, 1, 'm')}.`,
        lead: leadOf('distance', 'm', distance),
        rows: [['Distance', withRange(distance, 1, 'm')]],
        because: distance.because,
        working: [
          `Δf = ${decimals(spacing / 1e6, 3)}\u00a0MHz`,
          `d = VF·c / (2·Δf) = ${decimals(factor, 3)} · 299.79 / (2 · ${decimals(spacing / 1e6, 3)}) = ${decimals(distance.value, 1)}\u00a0m`,
        ],
      }
    }
    const lengthM = inputs.lengthM ?? subject?.lengthM
    if (!lengthM) throw new InputError('Give the length.', ['lengthM'])
    const n = inputs.quarterWaves ?? 1
    const factor = velocityFactor(
      { value: lengthM, doubt: inputs.lengthDoubtM ?? 0 },
      dip,
      n,
      inputs.farEnd,
    )
    const at = (inputs.atMhz ?? inputs.dipMhz) * 1e6
    const { waves, degrees } = electricalLength(lengthM, factor.value, at)
    const sheet = subject?.cable?.velocityFactor
    return {
      answer: `The velocity factor is ${withRange(factor, 3, '')}.`,
      lead: leadOf('velocity factor', '', factor),
      rows: [
        ['Velocity factor', withRange(factor, 3, '')],
        [
          `Length on ${formatFrequency(at)}`,
          `${decimals(waves, 3)} waves, ${decimals(degrees, 0)}°`,
        ],
        ...(sheet
          ? ([
              ['Data sheet', decimals(sheet, 2)],
              [
                'Dip that the sheet expects',
                `${significant(firstDipHz(lengthM, sheet, inputs.farEnd) / 1e6, 4)}\u00a0MHz`,
              ],
            ] as const)
          : []),
      ],
      because: factor.because,
      velocityFactor: factor.value,
      working: [
        `VF = 4·ℓ·f / (n·c) = 4 · ${decimals(lengthM, 2)} · ${decimals(dipHz / 1e6, 3)} / (${n} · 299.79) = ${decimals(factor.value, 3)}`,
      ],
      ...(sheet && (sheet < factor.low || sheet > factor.high)
        ? {
            mind: 'The data sheet says another factor. Is the length right, or the cable another one?',
          }
        : {}),
    }
  },
}
