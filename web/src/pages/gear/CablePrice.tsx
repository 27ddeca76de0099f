import type { Station } from '@saltline/contract'
import { useState } from 'react'
import { updateGear, updateStation } from '../../platform/api/queries.ts'
import { act } from '../../platform/act.ts'
import { ownCables } from '../../model/ownCables.ts'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { PriceField, span } from '../../ui/quantities.tsx'
import type { CableRow } from './cableRow.ts'

/** What a metre costs this station, and what a cable of its own weighs and bends to. Saved when a field is left. */
export function CablePrice({ row, station }: { row: CableRow; station: Station }) {
  const own = ownCables(station).find(({ id }) => id === row.id)?.document
  const { connectorPair: savedPair, perM } = station.prices
  const savedPrice = own ? own.pricePerM : perM[row.id]
  const [price, setPrice] = useState(savedPrice)
  const [pair, setPair] = useState(savedPair)
  const [facts, setFacts] = useState({
    outerMm: own?.outerMm,
    weightKgPer100m: own?.weightKgPer100m,
    minBendMm: own?.minBendMm,
  })
  const save = () =>
    act(async () => {
      if (own) {
        const document = { ...own, ...facts, pricePerM: price }
        if (JSON.stringify(document) !== JSON.stringify({ ...own }))
          await updateGear(row.id, { kind: 'cable', document })
      }
      const prices = own ? perM : withPrice(perM, row.id, price)
      if (pair === savedPair && (own || price === savedPrice)) return
      const { name, place, note, swrLimit, environment, currency } = station
      await updateStation(station.id, {
        name,
        place,
        note,
        swrLimit,
        environment,
        currency,
        prices: { perM: prices, ...(pair !== undefined && { connectorPair: pair }) },
      })
    })
  const fact = (label: string, key: keyof typeof facts, unit: string) => (
    <OptionalField
      label={label}
      unit={unit}
      {...span(key)}
      value={facts[key] ?? null}
      onChange={(value) => setFacts((old) => ({ ...old, [key]: value ?? undefined }))}
    />
  )
  return (
    <fieldset
      className="grid min-w-0 grid-cols-2 items-start gap-3 rounded-lg border border-rule p-3 pt-1 sm:grid-cols-3"
      onBlur={() => void save()}
    >
      <legend className="px-1 text-sm text-muted">Prices, {station.currency}</legend>
      <PriceField label="A metre of it" value={price} onChange={setPrice} />
      <PriceField
        label="A pair of connectors"
        value={pair}
        onChange={setPair}
        hint="fitted, for any cable"
      />
      {own && (
        <>
          {fact('Outer diameter', 'outerMm', 'mm')}
          {fact('Weight of 100 m', 'weightKgPer100m', 'kg')}
          {fact('Least bend radius', 'minBendMm', 'mm')}
        </>
      )}
    </fieldset>
  )
}

/** A price that is not known is not there. */
function withPrice(perM: Readonly<Record<string, number>>, id: string, price: number | undefined) {
  const { [id]: _, ...rest } = perM
  return price === undefined ? rest : { ...rest, [id]: price }
}
