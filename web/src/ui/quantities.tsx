/** The quantities of this product as fields: one line where they are used. */
import { type Figure, type Figures, limits, type Quantity } from '@saltline/contract'
import { type Dimension, fieldText, lengthFigure, wattsToDbm } from '@saltline/core'
import { useUnits } from '../platform/preferences.ts'
import { NumberInput, type NumberInputProps } from './NumberInput.tsx'
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

/** How a quantity is written in a field: the unit, the number in it, and what one press of an arrow key adds. */
interface Look {
  dimension: Dimension
  unit: string
  show: (value: number) => string
  step: (value: number) => number
}

const asItIs = (dimension: Dimension, unit: string, step: Look['step']): Look => ({
  dimension,
  unit,
  show: fieldText,
  step,
})

const looks: Record<Quantity, Look> = {
  length: asItIs('length', 'm', (metres) => (metres < 5 ? 0.1 : 1)),
  frequency: {
    dimension: 'frequency',
    unit: 'MHz',
    show: (hz) => fieldText(hz / 1e6, 10),
    step: (hz) => (hz < 30e6 ? 1e3 : 25e3),
  },
  power: asItIs('power', 'W', (watts) => (watts < 10 ? 0.1 : watts < 200 ? 1 : 10)),
  decibel: asItIs('decibel', 'dB', () => 0.01),
  impedance: asItIs('impedance', 'Ω', (ohm) => (Math.abs(ohm) < 10 ? 0.1 : 1)),
  swr: asItIs('swr', '', () => 0.1),
  voltage: asItIs('voltage', 'V', () => 1),
  time: asItIs('time', 's', () => 1),
  temperature: asItIs('temperature', '°C', () => 1),
  inductance: {
    dimension: 'inductance',
    unit: 'µH',
    show: (henry) => fieldText(henry * 1e6),
    step: () => 1e-8,
  },
  capacitance: {
    dimension: 'capacitance',
    unit: 'pF',
    show: (farad) => fieldText(farad * 1e12),
    step: () => 1e-12,
  },
  plain: asItIs('plain', '', () => 1),
}

const FOOT_M = 0.3048
const feet: Look = {
  dimension: 'length',
  unit: 'ft',
  show: (metres) => fieldText(metres / FOOT_M, 6),
  step: () => FOOT_M,
}

/** A field of a quantity with bounds that may be another figure’s. */
const fieldOf = (quantity: Quantity, usual: LimitKey) =>
  function Field({ within = usual, ...props }: Within) {
    const { step, ...look } = looks[quantity]
    return <QuantityField {...span(within)} {...props} {...look} step={step(props.value)} />
  }

export const FrequencyField = fieldOf('frequency', 'frequencyHz')
export const PowerField = fieldOf('power', 'powerW')
export const DecibelField = fieldOf('decibel', 'lossDb')
export const OhmField = fieldOf('impedance', 'ohm')
export const SwrField = fieldOf('swr', 'swr')
export const InductanceField = fieldOf('inductance', 'inductanceH')
export const CapacitanceField = fieldOf('capacitance', 'capacitanceF')

/** A level; no power at all has none. One press of an arrow key is a tenth of a decibel. */
const dbm: Look = {
  dimension: 'power',
  unit: 'dBm',
  show: (watts) => (watts > 0 ? fieldText(wattsToDbm(watts), 5) : '0 W'),
  step: (watts) => watts * (10 ** 0.01 - 1),
}

const useLevelLook = (): Look => (useUnits().power === 'dBm' ? dbm : looks.power)

/** A power at a place in the operator’s unit, W or dBm. Ratings of gear stay in watts, as they are printed on it. */
export function LevelField({ within = 'powerW', ...props }: Within) {
  const { step, ...look } = useLevelLook()
  return <QuantityField {...span(within)} {...props} {...look} step={step(props.value)} />
}

/** The same as it is read off a meter: it may be left open. */
export function ReadField(
  props: Pick<NumberInputProps, 'label' | 'value' | 'onChange' | 'hint' | 'inputRef'> & {
    within?: LimitKey
  },
) {
  const { step: _, ...look } = useLevelLook()
  const { within = 'shownW', ...rest } = props
  return <NumberInput optional {...span(within)} {...rest} {...look} />
}

/** A length in the operator’s unit, with the other one below. */
export function LengthField(props: FieldProps) {
  const { length } = useUnits()
  const { step, ...look } = length === 'ft' ? feet : looks.length
  const other = length === 'ft' ? 'm' : 'ft'
  return (
    <QuantityField
      {...span('lengthM')}
      hint={`= ${lengthFigure(props.value, other).number} ${other}`}
      {...props}
      {...look}
      step={step(props.value)}
    />
  )
}

type AboutFigure = Pick<FieldProps, 'min' | 'max' | 'refuse' | 'hint'>

interface OneFigure extends AboutFigure {
  figure: Figure
  value: number | undefined
  onChange: (value: number | undefined) => void
}

/** What a figure is typed into: called, not rendered, so that a list of figures is no deeper than its fields. */
function fieldFor({ figure, value, onChange, ...about }: OneFigure) {
  const { key, label, noun, quantity, within, optional, step: own, whole } = figure
  if (quantity === 'length' && value !== undefined)
    return (
      <LengthField key={key} label={label ?? noun} value={value} onChange={onChange} {...about} />
    )
  const { step, ...look } = looks[quantity]
  return (
    <NumberInput
      key={key}
      {...span(within)}
      {...about}
      {...look}
      label={label ?? noun}
      value={value ?? null}
      onChange={(next) => onChange(next ?? undefined)}
      step={own ?? step(value ?? 0)}
      optional={optional === true}
      whole={whole === true}
    />
  )
}

/** The field of one figure of a document; emptied, one that may stay unknown is `undefined`. */
export const FigureField = (props: OneFigure) => fieldFor(props)

/** The fields of a list of figures, two beside each other. */
export function FigureFields<const F extends readonly Figure[]>({
  figures,
  values,
  change,
  about = {},
}: {
  figures: F
  values: Figures<F>
  change: (part: Partial<Figures<F>>) => void
  /** Bounds and words of some of them that depend on others. */
  about?: { [K in F[number]['key']]?: AboutFigure }
}) {
  return (
    <div className="grid grid-cols-2 items-start gap-2">
      {figures.map((figure: F[number]) =>
        fieldFor({
          ...about[figure.key as F[number]['key']],
          figure,
          value: (values as Record<string, number | undefined>)[figure.key],
          onChange: (value) => change({ [figure.key]: value } as Partial<Figures<F>>),
        }),
      )}
    </div>
  )
}

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
