import { textLimits } from '@saltline/contract'

/** Where the dials stand, as they read. */
export function StepDials({
  names,
  values,
  onType,
}: {
  names: readonly string[]
  values: readonly string[]
  onType: (values: string[]) => void
}) {
  return (
    <fieldset className="grid max-w-md grid-cols-3 gap-2">
      <legend className="mb-1 text-sm text-muted">Dials, as they read</legend>
      {names.map((name, i) => (
        <label key={name} className="text-xs text-muted">
          {name}
          <input
            className="field mt-0.5 !text-lg"
            maxLength={textLimits.dialMark}
            value={values[i] ?? ''}
            onChange={({ target }) =>
              onType(names.map((_, k) => (k === i ? target.value : (values[k] ?? ''))))
            }
          />
        </label>
      ))}
    </fieldset>
  )
}
