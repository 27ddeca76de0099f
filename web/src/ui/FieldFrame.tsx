/** What all number fields have around them: the label, the unit, and a word below. */
export function FieldFrame({
  id,
  label,
  bare,
  unit,
  error,
  hint,
  children,
}: {
  /** Of the input; what is told below is `${id}-help`. */
  id: string
  label: string
  /** The label is read aloud but not shown, as in the rows of a table. */
  bare: boolean | undefined
  unit: string
  error: React.ReactNode
  hint: React.ReactNode
  children: React.ReactNode
}) {
  return (
    <div>
      <label htmlFor={id} className={bare ? 'sr-only' : 'mb-0.5 block text-xs text-muted'}>
        {label}
        {unit && !label.endsWith(unit) && <span className="sr-only">, {unit}</span>}
      </label>
      <div className="relative">
        {children}
        <span
          aria-hidden
          className="pointer-events-none absolute inset-y-0 right-2.5 grid place-items-center text-sm text-muted"
        >
          {unit}
        </span>
      </div>
      {(error || hint) && (
        <div id={`${id}-help`} className={`mt-0.5 text-xs ${error ? 'text-danger' : 'text-muted'}`}>
          {error ? <>⚠ {error}</> : hint}
        </div>
      )}
    </div>
  )
}
