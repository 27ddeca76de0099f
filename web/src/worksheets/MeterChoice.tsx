import type { Station } from '@saltline/contract'
import type { Meter } from '@saltline/core'
import { meterChoices } from '../model/places.ts'
import { ChoiceField } from '../ui/ChoiceField.tsx'

/** The instrument of a worksheet, by its id; the first where there is none of that. */
export const meterOf = (station: Station, id: string): Meter => {
  const choices = meterChoices(station)
  return (choices.find((own) => own.id === id) ?? choices[0]!).meter
}

export function MeterChoice({
  station,
  label = 'Meter',
  value,
  onChange,
}: {
  station: Station
  label?: string
  value: string
  onChange: (id: string) => void
}) {
  const choices = meterChoices(station)
  return (
    <ChoiceField
      label={label}
      value={value || choices[0]!.id}
      options={choices.map(({ id, name }) => ({ value: id, label: name }))}
      onChange={onChange}
    />
  )
}
