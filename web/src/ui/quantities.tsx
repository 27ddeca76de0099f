/** The quantities of this product as fields: one line where they are used. */
import { limits } from '@saltline/contract'
import { fieldText, lengthFigure } from '@saltline/core'
import { useUnits } from '../platform/preferences.ts'
import { inFieldUnit, OptionalField } from './OptionalField.tsx'
import { QuantityField } from './QuantityField.tsx'

interface FieldProps {
  label: string
  value: number
  onChange: (value: number) => void
  hint?: string
  autoFocus?: boolean
  bare?: boolean
  /** Narrower bounds than the quantity's own. */
  min?: number
  max?: number
  refuse?: (value: number) => string | null
}

/** A field whose bounds are those of the figure it is for. */
type Within = FieldProps & { within?: LimitKey }

export type LimitKey = keyof typeof limits

/** A figure's bounds, the schema's own, in a field's unit that is `scale` times smaller. */
export const span = (key: LimitKey, scale = 1) => ({
  min: Number((limits[key][0] * scale).toPrecision(12)),
  max: Number((limits[key][1] * scale).toPrecision(12)),
})

export function LengthField(props: FieldProps) {
  const { length } = useUnits()
  const feet = length === 'ft'
  return (
    <QuantityField
      {...span('lengthM')}
      {...props}
      dimension="length"
      unit={length}
      show={(m) => (feet ? fieldText(m / 0.3048, 6) : fieldText(m))}
      step={feet ? 0.3048 : props.value < 5 ? 0.1 : 1}
      hint={
        props.hint ??
        `= ${lengthFigure(props.value, feet ? 'm' : 'ft').number} ${feet ? 'm' : 'ft'}`
      }
    />
  )
}

export const FrequencyField = (props: FieldProps) => (
  <QuantityField
    {...span('frequencyHz')}
    {...props}
    dimension="frequency"
    unit="MHz"
    show={(hz) => fieldText(hz / 1e6, 10)}
    step={props.value < 30e6 ? 1e3 : 25e3}
  />
)

export const PowerField = ({ within = 'powerW', ...props }: Within) => (
  <QuantityField
    {...span(within)}
    {...props}
    dimension="power"
    unit="W"
    show={fieldText}
    step={props.value < 10 ? 0.1 : props.value < 200 ? 1 : 10}
  />
)

export const DecibelField = ({ within = 'lossDb', ...props }: Within) => (
  <QuantityField
    {...span(within)}
    {...props}
    dimension="decibel"
    unit="dB"
    show={fieldText}
    step={0.01}
  />
)

export const OhmField = ({ within = 'ohm', ...props }: Within) => (
  <QuantityField
    {...span(within)}
    {...props}
    dimension="impedance"
    unit="Ω"
    show={fieldText}
    step={Math.abs(props.value) < 10 ? 0.1 : 1}
  />
)

export const SwrField = ({ within = 'swr', ...props }: Within) => (
  <QuantityField {...span(within)} {...props} dimension="swr" unit="" show={fieldText} step={0.1} />
)

/** A number in the unit that the field names; other units of the same dimension are understood. */
export function PlainField({
  unit = '',
  value,
  onChange,
  step,
  min,
  max,
  ...rest
}: FieldProps & { unit?: string; step: number; min: number; max: number; whole?: boolean }) {
  const { as, toOwn, fromOwn } = inFieldUnit(unit)
  return (
    <QuantityField
      {...rest}
      dimension={as}
      unit={unit}
      value={toOwn(value)}
      onChange={(own) => onChange(fromOwn(own))}
      show={(own) => fieldText(fromOwn(own))}
      step={toOwn(step)}
      min={toOwn(min)}
      max={toOwn(max)}
    />
  )
}

/** Inductance in µH; kept in H. */
export const InductanceField = (props: FieldProps) => (
  <QuantityField
    {...span('inductanceH')}
    {...props}
    dimension="inductance"
    unit="µH"
    show={(henry) => fieldText(henry * 1e6)}
    step={1e-8}
  />
)

/** Capacitance in pF; kept in F. */
export const CapacitanceField = (props: FieldProps) => (
  <QuantityField
    {...span('capacitanceF')}
    {...props}
    dimension="capacitance"
    unit="pF"
    show={(farad) => fieldText(farad * 1e12)}
    step={1e-12}
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

/** Money that may not be known, in the station's currency. */
export const PriceField = ({
  value,
  onChange,
  ...rest
}: {
  label: string
  value: number | undefined
  onChange: (value: number | undefined) => void
  hint?: React.ReactNode
  bare?: boolean
}) => (
  <OptionalField
    {...rest}
    {...span('price')}
    value={value ?? null}
    onChange={(next) => onChange(next ?? undefined)}
  />
)
