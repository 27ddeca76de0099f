/** The quantities of this product as fields: one line where they are used. */
import { limits } from '@saltline/contract'
import { lengthFigure, significant } from '@saltline/core'
import { useUnits } from '../app/preferences.ts'
import { QuantityField } from './QuantityField.tsx'

interface FieldProps {
  label: string
  value: number
  onChange: (value: number) => void
  hint?: string
  autoFocus?: boolean
  bare?: boolean
}

/** All the digits that matter, none that do not. */
const plain = (value: number): string => String(Number(value.toPrecision(7)))

const span = (key: keyof typeof limits) => ({ min: limits[key][0], max: limits[key][1] })

export function LengthField(props: FieldProps) {
  const { length } = useUnits()
  const feet = length === 'ft'
  return (
    <QuantityField
      {...props}
      dimension="length"
      unit={length}
      show={(m) => (feet ? String(Number((m / 0.3048).toPrecision(6))) : plain(m))}
      step={feet ? 0.3048 : props.value < 5 ? 0.1 : 1}
      {...span('lengthM')}
      hint={
        props.hint ??
        `= ${lengthFigure(props.value, feet ? 'm' : 'ft').number} ${feet ? 'm' : 'ft'}`
      }
    />
  )
}

export const FrequencyField = (props: FieldProps) => (
  <QuantityField
    {...props}
    dimension="frequency"
    unit="MHz"
    show={(hz) => String(Number((hz / 1e6).toPrecision(9)))}
    step={props.value < 30e6 ? 1e3 : 25e3}
    {...span('frequencyHz')}
  />
)

export const PowerField = (props: FieldProps) => (
  <QuantityField
    {...props}
    dimension="power"
    unit="W"
    show={plain}
    step={props.value < 10 ? 0.1 : props.value < 200 ? 1 : 10}
    {...span('powerW')}
  />
)

export const DecibelField = (props: FieldProps) => (
  <QuantityField
    {...props}
    dimension="decibel"
    unit="dB"
    show={plain}
    step={0.01}
    {...span('lossDb')}
  />
)

export const OhmField = (props: FieldProps & { signed?: boolean }) => (
  <QuantityField
    {...props}
    dimension="impedance"
    unit="Ω"
    show={plain}
    step={Math.abs(props.value) < 10 ? 0.1 : 1}
    {...span(props.signed ? 'reactanceOhm' : 'ohm')}
  />
)

export const SwrField = (props: FieldProps) => (
  <QuantityField {...props} dimension="plain" unit="" show={plain} step={0.1} {...span('swr')} />
)

export const PlainField = (
  props: FieldProps & { unit?: string; step: number; min: number; max: number },
) => (
  <QuantityField
    dimension="plain"
    unit=""
    show={(v) => significant(v, 5).replace(/\.?0+$/, '') || '0'}
    {...props}
  />
)

/** Inductance in µH; kept in H. */
export const InductanceField = ({ value, onChange, ...props }: FieldProps) => (
  <PlainField
    {...props}
    unit="µH"
    step={0.01}
    min={0.0001}
    max={1e6}
    value={value * 1e6}
    onChange={(micro) => onChange(micro / 1e6)}
  />
)

/** Capacitance in pF; kept in F. */
export const CapacitanceField = ({ value, onChange, ...props }: FieldProps) => (
  <PlainField
    {...props}
    unit="pF"
    step={1}
    min={0.01}
    max={1e9}
    value={value * 1e12}
    onChange={(pico) => onChange(pico / 1e12)}
  />
)

/** A field for a figure that may stay unknown: emptied it is `undefined`. */
export function MaybeField({
  label,
  value,
  usual,
  onChange,
  children,
}: {
  label: string
  value: number | undefined
  /** What it starts with once it is known. */
  usual: number
  onChange: (value: number | undefined) => void
  children: (value: number) => React.ReactNode
}) {
  return (
    <div>
      <label className="flex items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="accent-tide"
          checked={value !== undefined}
          onChange={(event) => onChange(event.target.checked ? usual : undefined)}
        />
        {label}
      </label>
      {value !== undefined && <div className="mt-1">{children(value)}</div>}
    </div>
  )
}
