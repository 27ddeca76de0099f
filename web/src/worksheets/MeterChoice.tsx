import type { Station } from '@saltline/contract'
import type { Meter } from '@saltline/core'
import { meterChoices } from '../model/places.ts'
import { ChoiceField } from '../ui/ChoiceField.tsx'

/** What is chosen: the first where nothing is, or the first but `beside`, the one that it is compared with. */
const chosen = (choices: ReturnType<typeof meterChoices>, id: string, beside?: string) =>
  choices.find((own) => own.id === id) ?? choices.find((own) => own.id !== beside) ?? choices[0]!

/** The instrument of a worksheet by its id; `beside` as in its field. */
export const meterOf = (station: Station, id: string, beside?: string): Meter =>
  chosen(meterChoices(station), id, beside).meter

/** The id that stands for no choice yet. */
export const firstMeter = (station: Station): string => meterChoices(station)[0]!.id

export function MeterChoice({
  station,
  label = 'Meter',
  value,
  beside,
  onChange,
}: {
  station: Station
  label?: string
  value: string
  /** The instrument that it is compared with: by itself it is another. */
  beside?: string | undefined
  onChange: (id: string) => void
}) {
  const choices = meterChoices(station)
  return (
    <ChoiceField
      label={label}
      value={chosen(choices, value, beside).id}
      options={choices.map(({ id, name }) => ({ value: id, label: name }))}
      onChange={onChange}
    />
  )
}
