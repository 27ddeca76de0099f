import { useId, useState } from 'react'

/** A line of text that must not end up empty: what is refused is told and changes nothing. */
export function TextField({
  label,
  value,
  onChange,
  optional = false,
}: {
  label: string
  value: string
  onChange: (value: string) => void
  optional?: boolean
}) {
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const empty = draft !== null && draft.trim() === '' && !optional
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-xs text-muted">
        {label}
      </label>
      <input
        id={id}
        className="field"
        maxLength={80}
        value={draft ?? value}
        aria-invalid={empty}
        aria-describedby={empty ? `${id}-help` : undefined}
        onChange={(event) => {
          setDraft(event.target.value)
          if (optional || event.target.value.trim() !== '') onChange(event.target.value)
        }}
        onBlur={() => setDraft(null)}
      />
      {empty && (
        <p id={`${id}-help`} className="mt-0.5 text-xs text-danger">
          ⚠ Give it a name; until then it stays “{value}”.
        </p>
      )}
    </div>
  )
}
