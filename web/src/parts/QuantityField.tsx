import { type Dimension, parseQuantity } from '@saltline/core'
import { useId, useState } from 'react'
import { FieldFrame } from './FieldFrame.tsx'

export interface QuantityFieldProps {
  label: string
  /** In the dimension's own unit: m, Hz, W, dB, Ω, 1. */
  value: number
  onChange: (value: number) => void
  dimension: Dimension
  /** What the field shows and what a bare number means. */
  unit: string
  /** The value as the number in that unit, without the unit. */
  show: (value: number) => string
  /** One press of an arrow key, in the dimension's own unit. */
  step: number
  min: number
  max: number
  hint?: string | undefined
  /** The label is read aloud but not shown, as in the rows of a table. */
  bare?: boolean
  autoFocus?: boolean
}

/**
 * A number with its unit. Takes `40 ft`, `7,1`, `1.5k`; arrows step (Shift ten times, Alt a tenth);
 * what cannot be read is told below and changes nothing.
 */
export function QuantityField(props: QuantityFieldProps) {
  const { label, value, onChange, dimension, unit, show, step, min, max, hint } = props
  const id = useId()
  /** What is being typed; null while the field shows the document's value. */
  const [draft, setDraft] = useState<string | null>(null)
  const withUnit = (v: number) => `${show(v)}\u00a0${unit}`.trim()
  const read = (text: string) => parseQuantity(text, dimension, unit, { min, max, show: withUnit })
  const parsed = draft === null ? null : read(draft)
  const error = parsed && !parsed.ok ? parsed.message : null

  const type = (text: string) => {
    setDraft(text)
    const result = read(text)
    if (result.ok) onChange(result.value)
  }
  const press = (event: React.KeyboardEvent) => {
    if (event.key === 'Escape' && draft !== null) {
      event.stopPropagation()
      return setDraft(null)
    }
    if (event.key === 'Enter') return setDraft(error ? draft : null)
    const direction = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0
    if (direction === 0) return
    event.preventDefault()
    const size = step * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1)
    // Rounded to the step, so that 0.1 + 0.2 stays 0.3.
    const next = Math.round((value + direction * size) / (size / 10)) * (size / 10)
    setDraft(null)
    onChange(Number(Math.min(max, Math.max(min, next)).toPrecision(12)))
  }
  return (
    <FieldFrame id={id} label={label} bare={props.bare} unit={unit} error={error} hint={hint}>
      <input
        id={id}
        className="field pr-12"
        inputMode="decimal"
        autoComplete="off"
        spellCheck={false}
        autoFocus={props.autoFocus}
        value={draft ?? show(value)}
        aria-invalid={error !== null}
        aria-describedby={error || hint ? `${id}-help` : undefined}
        onChange={(event) => type(event.target.value)}
        onKeyDown={press}
        onFocus={(event) => event.target.select()}
        onBlur={() => setDraft(error ? draft : null)}
      />
    </FieldFrame>
  )
}
