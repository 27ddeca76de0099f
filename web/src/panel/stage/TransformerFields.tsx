import { Fold } from '../../ui/Fold.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { DecibelField, FrequencyField, PlainField, span } from '../../ui/quantities.tsx'
import type { StageFields } from './stageFields.ts'

/** A balun or unun: its ratio and loss, and what else is known of it. */
export function TransformerFields({ stage, change, hz }: StageFields<'transformer'>) {
  const known =
    stage.leakageOhm !== undefined ||
    stage.magnetisingOhm !== undefined ||
    stage.coreOhm !== undefined
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <PlainField
          label="Impedance ratio"
          value={stage.ratio}
          step={1}
          onChange={(ratio) => change({ ratio })}
          {...span('transformerRatio')}
        />
        <DecibelField
          label="Insertion loss"
          value={stage.lossDb}
          onChange={(lossDb) => change({ lossDb })}
        />
      </div>
      <p className="text-xs text-muted">
        The ratio is the antenna’s side over the transmitter’s: 4 makes 50 Ω of 200 Ω.
      </p>
      <Fold summary="Reactances and core" startsOpen={known}>
        <div className="mt-2 grid grid-cols-2 gap-2">
          <Ohms
            label="Leakage, in series"
            within="leakageOhm"
            value={stage.leakageOhm}
            onChange={(leakageOhm) => change({ leakageOhm, ...(!known && { atHz: hz }) })}
          />
          <Ohms
            label="Magnetising, in parallel"
            within="parallelOhm"
            value={stage.magnetisingOhm}
            onChange={(magnetisingOhm) => change({ magnetisingOhm, ...(!known && { atHz: hz }) })}
          />
          <FrequencyField
            label="Stated at"
            value={stage.atHz}
            onChange={(atHz) => change({ atHz })}
          />
          <Ohms
            label="Core loss, in parallel"
            within="parallelOhm"
            value={stage.coreOhm}
            onChange={(coreOhm) => change({ coreOhm })}
          />
        </div>
        <p className="mt-2 text-xs text-muted">
          All on the transmitter’s side. The two reactances go with frequency, the core’s resistance
          does not.
        </p>
      </Fold>
    </>
  )
}

function Ohms({
  label,
  within,
  value,
  onChange,
}: {
  label: string
  within: 'leakageOhm' | 'parallelOhm'
  value: number | undefined
  onChange: (value: number | undefined) => void
}) {
  return (
    <OptionalField
      label={label}
      dimension="impedance"
      unit="Ω"
      value={value ?? null}
      onChange={(ohm) => onChange(ohm ?? undefined)}
      {...span(within)}
    />
  )
}
