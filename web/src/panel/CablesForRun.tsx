import type { Station } from '@saltline/contract'
import { type Chain, decimals, findsCable, formatDb, type OperatingPoint } from '@saltline/core'
import { Search } from 'lucide-react'
import { useMemo, useState } from 'react'
import { useTask } from '../compute/useTask.ts'
import { type CableChoice, cableChoices } from '../model/cableFacts.ts'
import { heardWords } from '../model/sentence.ts'
import { wattsText } from '../model/wattsText.ts'
import { useUnits } from '../platform/preferences.ts'
import { Problem } from '../ui/Problem.tsx'
import { DecibelField } from '../ui/quantities.tsx'

interface Row extends CableChoice {
  antennaW: number | null
  lossDb: number
  /** Of the whole run. */
  weightKg: number | null
  price: number | null
}

type Key = 'name' | 'watts' | 'outer' | 'weight' | 'bend' | 'price'

/** What a column sorts by; what is not known comes last. */
const sortBy: Record<Key, (row: Row) => number | string> = {
  name: ({ name }) => name.toLowerCase(),
  watts: ({ antennaW }) => (antennaW === null ? Infinity : -antennaW),
  outer: ({ outerMm }) => outerMm ?? Infinity,
  weight: ({ weightKg }) => weightKg ?? Infinity,
  bend: ({ minBendMm }) => minBendMm ?? Infinity,
  price: ({ price }) => price ?? Infinity,
}

/** Roughly, so that what stands below hardly moves when the figures come. */
const HEAD_PX = 110
const ROW_PX = 29

/**
 * The same run in every class of cable and every cable of the station: watts, dB, weight, bend, price. One click takes
 * a row.
 */
export function CablesForRun({
  station,
  chain,
  at,
  stage,
  lengthM,
  currentId,
  onTake,
  takeLabel,
}: {
  station: Pick<Station, 'gear' | 'prices' | 'currency'>
  chain: Chain
  at: OperatingPoint
  /** Index of the section. */
  stage: number
  lengthM: number
  currentId: string | undefined
  onTake: (choice: CableChoice) => void
  /** What a click does, for who cannot see it. */
  takeLabel: (name: string) => string
}) {
  const { power } = useUnits()
  const [query, setQuery] = useState('')
  const [sort, setSort] = useState<Key>('watts')
  const [wantedDb, setWantedDb] = useState(1)
  const choices = useMemo(() => cableChoices(station), [station])
  const request = useMemo(
    () => ({ chain, at, stage, cables: choices.map(({ id, cable }) => ({ id, cable })) }),
    [chain, at, stage, choices],
  )
  const { last, problem } = useTask('cablesForRun', request)
  const pair = station.prices.connectorPair
  const rows = choices.map((choice): Row => {
    const antennaW = last?.[choice.id] ?? null
    return {
      ...choice,
      antennaW,
      lossDb: antennaW === null ? NaN : 10 * Math.log10(at.powerW / antennaW),
      weightKg: choice.weightKgPer100m === null ? null : (choice.weightKgPer100m * lengthM) / 100,
      price:
        choice.pricePerM === null || pair === undefined ? null : choice.pricePerM * lengthM + pair,
    }
  })
  const thinnest = rows
    .filter(({ lossDb, outerMm }) => lossDb <= wantedDb && outerMm !== null)
    .reduce<Row | null>((best, row) => (best && best.outerMm! <= row.outerMm! ? best : row), null)
  const now = rows.find(({ id }) => id === currentId)
  const shown = rows
    .filter(({ name, cable, sheet }) =>
      findsCable({ name, z0Ohm: cable.z0Ohm, sheet: sheet ?? undefined }, query),
    )
    .toSorted((a, b) => compare(sortBy[sort](a), sortBy[sort](b)))
  const heading = (key: Key, label: string, title: string, narrow = '') => (
    <th
      scope="col"
      className={`${narrow} ${key === 'name' ? 'text-left' : ''}`}
      aria-sort={sort === key ? 'ascending' : undefined}
    >
      <button
        type="button"
        title={`sort by ${title}`}
        className={`min-h-6 hover:text-ink ${sort === key ? 'text-ink' : ''}`}
        onClick={() => setSort(key)}
      >
        {label}
        {sort === key && ' ▴'}
      </button>
    </th>
  )
  // What has no figures yet has no order either.
  if (!last && !problem)
    return (
      <p role="status" style={{ minHeight: HEAD_PX + choices.length * ROW_PX }}>
        Trying every cable…
      </p>
    )
  return (
    <div>
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <label className="relative min-w-40 flex-1">
          <span className="mb-0.5 block text-xs text-muted">Only cables with</span>
          <input
            className="field pl-8"
            value={query}
            placeholder="foam, RG-213, 75 Ω…"
            onChange={(event) => setQuery(event.target.value)}
          />
          <Search size={15} aria-hidden className="absolute bottom-2 left-2.5 text-muted" />
        </label>
        <div className="w-36">
          <DecibelField label="Loss wanted, at most" value={wantedDb} onChange={setWantedDb} />
        </div>
      </div>
      <p role="status" className="mb-1 text-sm">
        {last &&
          (thinnest ? (
            <>
              Thinnest with at most {formatDb(wantedDb)}: <b>{thinnest.name}</b> ({thinnest.outerMm}{' '}
              mm).
            </>
          ) : (
            <>No cable of the catalogue stays under {formatDb(wantedDb)} here.</>
          ))}
      </p>
      <Problem text={problem} />
      <table className="w-full text-right text-sm" aria-label="All cables for this run">
        <thead className="text-muted">
          <tr className="border-b border-rule [&>th]:py-1 [&>th]:pl-2 [&>th]:font-normal">
            {heading('name', 'cable', 'name')}
            {heading('watts', 'at antenna', 'watts at the antenna')}
            <th scope="col">loss</th>
            <th scope="col" className="max-sm:hidden">
              against now
            </th>
            {heading('outer', 'mm', 'outer diameter')}
            {heading('weight', 'kg', 'weight of the run', 'max-sm:hidden')}
            {heading('bend', 'bend, mm', 'least bend radius', 'max-sm:hidden')}
            {heading('price', station.currency, 'price of the run')}
          </tr>
        </thead>
        <tbody>
          {shown.map((row) => (
            <tr
              key={row.id}
              className={`border-b border-rule [&>td]:py-1 [&>td]:pl-2 [&>td]:whitespace-nowrap ${row.id === currentId ? 'bg-paper' : ''}`}
            >
              <th scope="row" className="text-left font-normal">
                <button
                  type="button"
                  className="min-h-7 text-left hover:text-tide"
                  aria-label={takeLabel(row.name)}
                  aria-current={row.id === currentId ? 'true' : undefined}
                  onClick={() => onTake(row)}
                >
                  {row === thinnest && <span title="the thinnest that stays under it">◆ </span>}
                  {row.name}
                </button>
                <span className="pl-1.5 text-xs text-muted">
                  {row.id === currentId ? 'now' : row.sheet ? row.sheet.jacketMarkings[0] : 'own'}
                </span>
              </th>
              <td className="font-bold">
                {row.antennaW === null ? '–' : wattsText(row.antennaW, power)}
              </td>
              <td>{Number.isNaN(row.lossDb) ? '–' : formatDb(row.lossDb)}</td>
              <td className="max-sm:hidden">{againstNow(row, now)}</td>
              <td>{row.outerMm ?? '?'}</td>
              <td className="max-sm:hidden">
                {row.weightKg === null ? '?' : decimals(row.weightKg, row.weightKg < 10 ? 1 : 0)}
              </td>
              <td className="max-sm:hidden">{row.minBendMm ?? '?'}</td>
              <td>{row.price === null ? '?' : decimals(row.price, 0)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {shown.length === 0 && <p className="py-3 text-sm text-muted">No cable like “{query}”.</p>}
      <p className="mt-2 text-xs text-muted">
        Figures typical of each class, straight from the solver. ?: not known. Prices are yours,
        from Gear.
      </p>
    </div>
  )
}

function againstNow({ id, lossDb }: Row, now: Row | undefined): string {
  if (!now || id === now.id || Number.isNaN(lossDb - now.lossDb)) return ''
  const db = now.lossDb - lossDb
  const heard = heardWords(Math.abs(db))
  return `${db < 0 ? '−' : '+'}${formatDb(Math.abs(db))}${heard === 'not heard' || Math.abs(db) < 0.05 ? ', not heard' : ''}`
}

function compare(a: number | string, b: number | string): number {
  if (typeof a === 'string' || typeof b === 'string') return String(a).localeCompare(String(b))
  return a === b ? 0 : a - b
}
