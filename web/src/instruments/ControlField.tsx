import type { Control, Settings } from '@saltline/core'
import { useId } from 'react'
import { Dial } from './Dial.tsx'

/** A few choices stand side by side, more in a list. */
const SIDE_BY_SIDE = 7

/** Anything that can be set on a bench. */
export function ControlField({
  control,
  settings,
  onSet,
}: {
  control: Control
  settings: Settings
  onSet: (value: number | string) => void
}) {
  const id = useId()
  const value = settings[control.id]!
  if (control.kind === 'knob') {
    const { label, least, most, step, unit } = control
    if (unit === undefined)
      return (
        <Dial
          label={label}
          value={Number(value)}
          least={least}
          most={most}
          step={step}
          onChange={onSet}
        />
      )
    return (
      <div>
        <label htmlFor={id} className="flex items-baseline justify-between text-xs text-muted">
          {label}
          <b className="text-lg text-ink tabular-nums">
            {value} <span className="text-sm font-normal">{unit}</span>
          </b>
        </label>
        <input
          id={id}
          type="range"
          className="w-full accent-tide"
          min={least}
          max={most}
          step={step}
          value={Number(value)}
          aria-valuetext={`${value} ${unit}`}
          onChange={({ target }) => onSet(Number(target.value))}
        />
      </div>
    )
  }
  const { label, options } = control
  const short = options.every((option) => option.label.length <= 9)
  if (options.length <= SIDE_BY_SIDE && short)
    return (
      <div role="group" aria-label={label}>
        <p className="mb-0.5 text-xs text-muted" aria-hidden>
          {label}
        </p>
        <div className="flex flex-wrap gap-1.5">
          {options.map((option) => (
            <button
              key={option.value}
              type="button"
              className="button !px-2 max-sm:min-h-10"
              aria-pressed={option.value === value}
              onClick={() => onSet(option.value)}
            >
              {option.label}
            </button>
          ))}
        </div>
      </div>
    )
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-xs text-muted">
        {label}
      </label>
      <select
        id={id}
        className="field"
        value={String(value)}
        onChange={({ target }) =>
          onSet(options.find((option) => String(option.value) === target.value)!.value)
        }
      >
        {options.map((option) => (
          <option key={option.value} value={String(option.value)}>
            {option.label}
          </option>
        ))}
      </select>
    </div>
  )
}
