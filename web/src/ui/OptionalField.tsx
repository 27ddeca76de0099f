import { conversionOf, type Dimension, dimensionOfUnit, fieldText } from '@saltline/core'
import { NumberInput } from './NumberInput.tsx'

/**
 * A figure that may be left open: emptied it is null. Value and bounds are in the field's unit, unless
 * a dimension is named: then in that dimension's own.
 */
export function OptionalField({
  value,
  onChange,
  dimension,
  unit = '',
  min,
  max,
  fieldRef,
  ...rest
}: {
  label: string
  value: number | null
  onChange: (value: number | null) => void
  dimension?: Dimension
  unit?: string
  min: number
  max: number
  hint?: React.ReactNode
  /** Only whole numbers. */
  whole?: boolean
  fieldRef?: React.Ref<HTMLInputElement>
  /** The label is read aloud but not shown, as in the rows of a table. */
  bare?: boolean
}) {
  const { toOwn, fromOwn, as } = inFieldUnit(dimension ? '' : unit, dimension)
  return (
    <NumberInput
      {...rest}
      optional
      inputRef={fieldRef}
      dimension={as}
      unit={unit}
      value={value === null ? null : toOwn(value)}
      onChange={(own) => onChange(own === null ? null : fromOwn(own))}
      min={toOwn(min)}
      max={toOwn(max)}
      show={(own) => fieldText(fromOwn(own))}
    />
  )
}

/** Conversions between a field's unit and the own unit of its dimension, without rounding dust. */
export function inFieldUnit(unit: string, dimension?: Dimension) {
  const as = dimension ?? dimensionOfUnit(unit)
  const conversion = (as !== 'plain' && conversionOf(as, unit)) || conversionOf('plain', '')!
  const clean = (value: number) => Number(value.toPrecision(13))
  return {
    as,
    toOwn: (value: number) => clean(conversion.toOwn(value)),
    fromOwn: (value: number) => clean(conversion.fromOwn(value)),
  }
}
