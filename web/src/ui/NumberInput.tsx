import { type Dimension, type ParsedQuantity, parseQuantity } from '@saltline/core'
import { useId, useState } from 'react'
import { FieldFrame } from './FieldFrame.tsx'

export interface NumberInputProps {
  label: string
  /** In the dimension's own unit; null where the figure is left open. */
  value: number | null
  onChange: (value: number | null) => void
  /** Whether the field may be left empty. */
  optional?: boolean
  dimension: Dimension
  /** What the field shows and what a bare number means. */
  unit: string
  /** The value as the number in that unit, without the unit. */
  show: (value: number) => string
  /** One press of an arrow key, in the dimension's own unit; without it arrows do nothing. */
  step?: number
  min: number
  max: number
  /** Only whole numbers. */
  whole?: boolean
  /** Why a figure cannot be, beside what stands in other fields; null where it can. */
  refuse?: ((value: number) => string | null) | undefined
  hint?: React.ReactNode
  /** The label is read aloud but not shown, as in the rows of a table. */
  bare?: boolean | undefined
  autoFocus?: boolean | undefined
  inputRef?: React.Ref<HTMLInputElement> | undefined
}

/**
 * The one number field. Takes `40 ft`, `7,1`, `1.5k`; arrows step (Shift ten times, Alt a tenth). What
 * it understood is shown where that differs from what was typed; where a comma or point may group
 * thousands, the other reading is offered. What cannot be read is said below and changes nothing.
 */
export function NumberInput({
  label,
  value,
  onChange,
  optional,
  dimension,
  unit,
  show,
  step,
  min,
  max,
  whole,
  refuse,
  hint,
  bare,
  autoFocus,
  inputRef,
}: NumberInputProps) {
  const id = useId()
  /** What is being typed, and the value before it; null while the field shows the document's value. */
  const [draft, setDraft] = useState<{ text: string; before: number | null } | null>(null)
  /** The reading that was taken and the one that was not, for as long as the first stands. */
  const [offer, setOffer] = useState<{ taken: number; other: number } | null>(null)
  const withUnit = (v: number) => `${show(v)}\u00a0${unit}`.trim()
  const read = (text: string): ParsedQuantity => {
    const parsed = parseQuantity(text, dimension, unit, { min, max, show: withUnit })
    if (!parsed.ok) return parsed
    const why =
      whole && !Number.isInteger(parsed.value) ? 'Type a whole number.' : refuse?.(parsed.value)
    return why ? { ok: false, message: why } : parsed
  }
  const parsed = draft === null || (optional && draft.text.trim() === '') ? null : read(draft.text)
  const error = parsed && !parsed.ok ? parsed : null
  const set = (next: number | null) => {
    if (next !== value) onChange(next)
  }

  const type = (text: string) => {
    const before = draft ? draft.before : value
    setDraft({ text, before })
    setOffer(null)
    if (optional && text.trim() === '') return set(null)
    const result = read(text)
    // What cannot be read must leave no half-typed figure behind.
    if (!result.ok) return set(before)
    set(result.value)
    if (result.other !== undefined) setOffer({ taken: result.value, other: result.other })
  }
  const choose = (chosen: number) => {
    setDraft(null)
    setOffer(null)
    set(chosen)
  }
  const press = (event: React.KeyboardEvent) => {
    if (event.key === 'Escape' && draft !== null) {
      event.stopPropagation()
      set(draft.before)
      return setDraft(null)
    }
    if (event.key === 'Enter') return setDraft(error ? draft : null)
    const direction = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0
    if (direction === 0 || step === undefined || value === null) return
    event.preventDefault()
    const size = step * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1)
    // Rounded to the step, so that 0.1 + 0.2 stays 0.3.
    const grain = whole ? 1 : size / 10
    const next = Math.round((value + direction * size) / grain) * grain
    setDraft(null)
    const stepped = Number(Math.min(max, Math.max(min, next)).toPrecision(12))
    if (!refuse?.(stepped)) set(stepped)
  }

  const echo = draft && parsed?.ok ? understood(draft.text, unit, show(parsed.value)) : null
  const below = error?.choices ? (
    <>
      {error.message}
      <span className="mt-1 flex flex-wrap gap-1.5">
        {error.choices.map((choice) => (
          <Choice key={choice} onChoose={() => choose(choice)}>
            {withUnit(choice)}
          </Choice>
        ))}
      </span>
    </>
  ) : (
    error?.message
  )
  const offered = offer && offer.taken === value && (
    <span className="flex flex-wrap items-center gap-1.5">
      read as {withUnit(offer.taken)}
      <Choice onChoose={() => choose(offer.other)}>{withUnit(offer.other)} instead</Choice>
    </span>
  )
  const help = offered || (echo !== null ? `= ${echo}\u00a0${unit}`.trim() : hint)
  return (
    <FieldFrame id={id} label={label} bare={bare} unit={unit} error={below} hint={help}>
      <input
        ref={inputRef}
        id={id}
        className={optional ? 'field pr-10' : 'field pr-12'}
        inputMode={min < 0 ? 'text' : 'decimal'}
        autoComplete="off"
        spellCheck={false}
        autoFocus={autoFocus}
        value={draft?.text ?? (value === null ? '' : show(value))}
        aria-invalid={error !== null}
        aria-describedby={error || help ? `${id}-help` : undefined}
        onChange={({ target }) => type(target.value)}
        onKeyDown={press}
        onFocus={({ target }) => target.select()}
        onBlur={() => setDraft(error ? draft : null)}
      />
    </FieldFrame>
  )
}

function Choice({ onChoose, children }: { onChoose: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      className="button !min-h-6 !px-2 !py-0 text-xs text-ink"
      onClick={onChoose}
    >
      {children}
    </button>
  )
}

/** The figure as the field shows it, where that is not just what was typed. */
function understood(text: string, unit: string, shown: string): string | null {
  const bare = text.trim().toLowerCase().endsWith(unit.toLowerCase())
    ? text.trim().slice(0, text.trim().length - unit.length)
    : text
  return Number(bare.replace('−', '-')) === Number(shown) ? null : shown
}
