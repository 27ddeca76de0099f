import { textLimits } from '@saltline/contract'
import { useId, useState } from 'react'

/** A line of text: what is refused is said below and changes nothing. */
export function TextField({
  label,
  value,
  onChange,
  optional = false,
  most = textLimits.name,
}: {
  label: string
  value: string
  onChange: (value: string) => void
  optional?: boolean
  /** Most characters. */
  most?: number
}) {
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const wrong = (text: string): string | null =>
    text.trim() === '' && !optional
      ? `Give it a name; until then it stays “${value}”.`
      : text.trim().length > most
        ? `At most ${most} characters; this has ${text.trim().length}.`
        : null
  const error = draft === null ? null : wrong(draft)
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-xs text-muted">
        {label}
      </label>
      <input
        id={id}
        className="field"
        value={draft ?? value}
        aria-invalid={error !== null}
        aria-describedby={error ? `${id}-help` : undefined}
        onChange={({ target }) => {
          setDraft(target.value)
          if (wrong(target.value) === null) onChange(target.value)
        }}
        // A text that is too long stays to be shortened; an empty one falls back.
        onBlur={() => setDraft(error && draft?.trim() ? draft : null)}
      />
      {error && (
        <p id={`${id}-help`} className="mt-0.5 text-xs text-danger">
          ⚠ {error}
        </p>
      )}
    </div>
  )
}
