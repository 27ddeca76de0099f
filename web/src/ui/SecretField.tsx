import { useId, useState } from 'react'

/** A passphrase: hidden unless one wants to see it. */
export function SecretField({
  label,
  value,
  onChange,
  autoComplete,
  error = null,
  autoFocus = false,
}: {
  label: string
  value: string
  onChange: (value: string) => void
  autoComplete: 'current-password' | 'new-password'
  error?: string | null
  autoFocus?: boolean
}) {
  const id = useId()
  const [shown, setShown] = useState(false)
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-sm text-muted">
        {label}
      </label>
      <input
        id={id}
        className="field"
        type={shown ? 'text' : 'password'}
        autoComplete={autoComplete}
        autoFocus={autoFocus}
        value={value}
        aria-invalid={error !== null}
        aria-describedby={error ? `${id}-trouble` : undefined}
        onChange={({ target }) => onChange(target.value)}
      />
      <label className="mt-1.5 flex min-h-6 items-center gap-2 text-sm text-muted">
        <input
          type="checkbox"
          className="size-4 accent-tide"
          checked={shown}
          onChange={({ target }) => setShown(target.checked)}
        />
        show it
      </label>
      {error && (
        <p id={`${id}-trouble`} role="alert" className="mt-2 text-sm text-danger">
          ⚠ {error}
        </p>
      )}
    </div>
  )
}
