import { NumberInput, type NumberInputProps } from './NumberInput.tsx'

export type QuantityFieldProps = Omit<NumberInputProps, 'value' | 'onChange' | 'optional'> & {
  value: number
  onChange: (value: number) => void
  step: number
}

/** A number with its unit that is always there. */
export const QuantityField = ({ onChange, ...props }: QuantityFieldProps) => (
  <NumberInput {...props} onChange={(value) => value !== null && onChange(value)} />
)
