/** A day, by the platform's own calendar. */
export const DateField = ({
  label,
  value,
  onChange,
}: {
  label: string
  value: string
  onChange: (value: string) => void
}) => (
  <label className="block text-xs text-muted">
    {label}
    <input
      type="date"
      required
      className="field mt-0.5 text-sm"
      value={value}
      onChange={({ target }) => onChange(target.value)}
    />
  </label>
)
