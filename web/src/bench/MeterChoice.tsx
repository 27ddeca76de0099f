import type { Station } from '@saltline/contract'
import { type Meter, usualMeter } from '@saltline/core'
import { metersOf } from '../lenses/log/places.ts'
import { ChoiceField } from '../parts/ChoiceField.tsx'

/** The instrument of a worksheet, by its id; a usual meter where the station has none. */
export const meterOf = (station: Station, id: string): Meter =>
  (metersOf(station).find((own) => own.id === id) ?? metersOf(station)[0])?.document ?? usualMeter

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
  const meters = metersOf(station)
  return (
    <ChoiceField
      label={label}
      value={value || (meters[0]?.id ?? '')}
      options={
        meters.length > 0
          ? meters.map(({ id, document: { name } }) => ({ value: id, label: name }))
          : [{ value: '', label: 'a usual meter, ± 5 % of full scale' }]
      }
      onChange={onChange}
    />
  )
}
