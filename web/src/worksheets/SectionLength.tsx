import { OptionalField } from '../ui/OptionalField.tsx'
import type { FieldsProps } from './worksheet.ts'

/** Length of what lies on the bench: the chain's own, until another is given. */
export const SectionLength = ({
  inputs,
  put,
  subject,
}: Pick<FieldsProps<{ lengthM: number | null }>, 'inputs' | 'put' | 'subject'>) => (
  <OptionalField
    label="Length"
    value={inputs.lengthM ?? subject?.lengthM ?? null}
    onChange={(lengthM) => put({ lengthM })}
    dimension="length"
    unit="m"
    min={0.01}
    max={5000}
  />
)
