import { type Dimension, parseQuantity } from '@saltline/core'
import { useId, useState } from 'react'
import { FieldFrame } from './FieldFrame.tsx'

/** A figure that may be left open: emptied it is null. What cannot be read is told below. */
export function OptionalField({
  label,
  value,
  onChange,
  dimension = 'plain',
  unit = '',
  min,
  max,
  hint,
  fieldRef,
  bare = false,
}: {
  label: string
  value: number | null
  onChange: (value: number | null) => void
  dimension?: Dimension
  unit?: string
  min: number
  max: number
  hint?: React.ReactNode
  fieldRef?: React.Ref<HTMLInputElement>
  /** The label is read aloud but not shown, as in the rows of a table. */
  bare?: boolean
}) {
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const show = (v: number) => String(Number(v.toPrecision(7)))
  const read = (text: string) =>
    parseQuantity(text, dimension, unit, { min, max, show: (v) => `${show(v)} ${unit}`.trim() })
  const parsed = draft === null || draft.trim() === '' ? null : read(draft)
  const error = parsed && !parsed.ok ? parsed.message : null
  return (
    <FieldFrame id={id} label={label} bare={bare} unit={unit} error={error} hint={hint}>
      <input
        ref={fieldRef}
        id={id}
        className="field pr-10"
        inputMode="decimal"
        autoComplete="off"
        spellCheck={false}
        value={draft ?? (value === null ? '' : show(value))}
        aria-invalid={error !== null}
        aria-describedby={error || hint ? `${id}-help` : undefined}
        onChange={({ target }) => {
          setDraft(target.value)
          if (target.value.trim() === '') return onChange(null)
          const result = read(target.value)
          if (result.ok) onChange(result.value)
        }}
        onFocus={({ target }) => target.select()}
        onBlur={() => setDraft(error ? draft : null)}
      />
    </FieldFrame>
  )
}
