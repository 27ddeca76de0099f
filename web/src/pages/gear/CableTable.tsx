import { attenuationDbPer100m, decimals, formatPower, ratedPowerAt } from '@saltline/core'
import { Plus, Search } from 'lucide-react'
import { useState } from 'react'
import { FrequencyField } from '../../ui/quantities.tsx'
import { type CableRow, matches, type SortKey, sortRows } from './cableRow.ts'

interface Props {
  rows: readonly CableRow[]
  current: string
  compared: readonly string[]
  frequencyHz: number
  onFrequency: (hz: number) => void
  onPick: (id: string) => void
  onCompare: (id: string) => void
  onIdentify: () => void
  onOwn: () => void
}

const columns: readonly { key: SortKey; label: string; title: string; wide?: boolean }[] = [
  { key: 'name', label: 'cable', title: 'name' },
  { key: 'loss', label: 'dB/100 m', title: 'loss at the frequency above' },
  { key: 'power', label: 'power', title: 'rated average power, matched, 40 °C' },
  { key: 'voltage', label: 'V rms', title: 'rated voltage', wide: true },
  { key: 'weight', label: 'kg/100 m', title: 'weight', wide: true },
  { key: 'bend', label: 'bend, mm', title: 'least bending radius', wide: true },
  {
    key: 'price',
    label: 'price/m',
    title: 'the station’s own price of a metre; else the price level of the class',
  },
]

/** Search, sort, compare: all the catalogue and the station's own cables. */
export function CableTable(props: Props) {
  const { frequencyHz, current, compared } = props
  const [query, setQuery] = useState('')
  const [sort, setSort] = useState<{ key: SortKey; falling: boolean }>({
    key: 'outer',
    falling: false,
  })
  const shown = sortRows(
    props.rows.filter((row) => matches(row, query)),
    sort.key,
    sort.falling,
    frequencyHz,
  )
  return (
    <>
      <div className="flex flex-wrap items-end gap-2 px-5 py-3">
        <label className="relative min-w-44 flex-1">
          <span className="mb-0.5 block text-xs text-muted">
            Search by name, marking, construction
          </span>
          <input
            className="field pl-8"
            value={query}
            placeholder="RG-213, foam, 75 Ω…"
            onChange={(event) => setQuery(event.target.value)}
          />
          <Search size={15} aria-hidden className="absolute bottom-2 left-2.5 text-muted" />
        </label>
        <div className="w-32">
          <FrequencyField label="Figures at" value={frequencyHz} onChange={props.onFrequency} />
        </div>
        <button type="button" className="button" onClick={props.onIdentify}>
          Identify a cable
        </button>
        <button type="button" className="button" onClick={props.onOwn}>
          <Plus size={14} aria-hidden /> Custom cable
        </button>
      </div>
      <div className="min-h-0 flex-1 overflow-auto px-5 pb-4">
        <table className="w-full text-right text-sm">
          <thead className="sticky top-0 bg-sheet">
            <tr className="border-b border-rule text-muted [&>th]:py-1.5 [&>th]:font-normal">
              <th scope="col" className="w-7">
                <span className="sr-only">compare</span>
              </th>
              {columns.map(({ key, label, title, wide }) => (
                <th
                  key={key}
                  scope="col"
                  aria-sort={
                    sort.key === key ? (sort.falling ? 'descending' : 'ascending') : undefined
                  }
                  className={`${key === 'name' ? 'text-left' : ''} ${wide ? 'hidden xl:table-cell' : ''}`}
                >
                  <button
                    type="button"
                    title={title}
                    className={`hover:text-ink ${sort.key === key ? 'text-ink' : ''}`}
                    onClick={() => setSort({ key, falling: sort.key === key && !sort.falling })}
                  >
                    {label} {sort.key === key ? (sort.falling ? '▾' : '▴') : ''}
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((row) => {
              const { id, name, cable, sheet, weightKgPer100m, minBendMm, pricePerM } = row
              return (
                <tr
                  key={id}
                  className={`border-b border-rule [&>td]:py-1 [&>td]:pl-3 ${id === current ? 'bg-paper' : ''}`}
                >
                  <td className="!pl-0 text-left">
                    <input
                      type="checkbox"
                      className="accent-tide"
                      checked={compared.includes(id) || id === current}
                      disabled={id === current}
                      aria-label={`Compare ${name} on the chart`}
                      onChange={() => props.onCompare(id)}
                    />
                  </td>
                  <th scope="row" className="py-1 text-left font-normal">
                    <button
                      type="button"
                      className={`text-left hover:text-tide ${id === current ? 'font-bold' : ''}`}
                      aria-pressed={id === current}
                      onClick={() => props.onPick(id)}
                    >
                      {name}
                      <span className="pl-1.5 text-xs text-muted">
                        {sheet ? sheet.jacketMarkings[0] : 'custom'}
                      </span>
                    </button>
                  </th>
                  <td>{decimals(attenuationDbPer100m(cable, frequencyHz), 2)}</td>
                  <td className="whitespace-nowrap">
                    {sheet ? formatPower(ratedPowerAt(sheet, frequencyHz)) : '?'}
                  </td>
                  <td className="hidden xl:table-cell">{sheet?.ratedVoltageRms ?? '?'}</td>
                  <td className="hidden xl:table-cell">{weightKgPer100m ?? '?'}</td>
                  <td className="hidden xl:table-cell">{minBendMm ?? '?'}</td>
                  <td className="tracking-tight whitespace-nowrap">
                    {pricePerM !== null
                      ? decimals(pricePerM, 2)
                      : sheet
                        ? '●'.repeat(sheet.priceLevel)
                        : '?'}
                  </td>
                </tr>
              )
            })}
          </tbody>
        </table>
        {shown.length === 0 && (
          <p className="py-4 text-muted">
            No cable like “{query}”. Try a part of the marking, or “Identify a cable”.
          </p>
        )}
      </div>
    </>
  )
}
