import { address } from '../../platform/base.ts'
import { useUnits } from '../../platform/preferences.ts'
import {
  clockText,
  dayText,
  placesOf,
  type Reading,
  type ReadingsQuery,
  type Station,
} from '@saltline/contract'
import { formatPower, formatSwr, swrRead } from '@saltline/core'
import { useQueries } from '@tanstack/react-query'
import { useVirtualizer } from '@tanstack/react-virtual'
import { Download, Upload } from 'lucide-react'
import { useRef, useState } from 'react'
import { readingsQuery } from '../../platform/api/logQueries.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { ImportReadings } from './ImportReadings.tsx'
import { instrumentsOf, onText } from '../../model/places.ts'
import type { LensProps } from '../../editor/lens.ts'

const PAGE = 200
const ROW_PX = 30

type Filter = Pick<ReadingsQuery, 'chain' | 'before' | 'instrument' | 'outside' | 'text'>

/** Every reading of the station, newest first; only the rows in sight are fetched and drawn. */
export function AllReadings(props: LensProps) {
  const { station, chainId, document } = props
  const [filter, setFilter] = useState<Filter>({ chain: chainId })
  const [importing, setImporting] = useState(false)
  const put = (change: Filter) => setFilter((old) => ({ ...old, ...change }))
  return (
    <div className="px-5 py-3">
      <div className="mb-3 flex flex-wrap items-end gap-2">
        <Choose
          label="Chain"
          value={filter.chain}
          options={station.chains.map(({ id, name }) => ({ value: id, label: name }))}
          all="all chains"
          onChange={(chain) => put({ chain, before: undefined })}
        />
        {filter.chain === chainId && (
          <Choose
            label="Where"
            value={filter.before}
            options={placesOf(document).map(({ before, name }) => ({ value: before, label: name }))}
            all="anywhere"
            onChange={(before) => put({ before })}
          />
        )}
        <Choose
          label="Instrument"
          value={filter.instrument}
          options={instrumentsOf(station).map(({ id, document: { name } }) => ({
            value: id,
            label: name,
          }))}
          all="any"
          onChange={(instrument) => put({ instrument })}
        />
        <Choose
          label="Against the prediction"
          value={filter.outside}
          options={[
            { value: 'true', label: 'outside' },
            { value: 'false', label: 'inside' },
          ]}
          all="all"
          onChange={(outside) => put({ outside: outside as 'true' | 'false' | undefined })}
        />
        <label className="max-w-44 text-xs text-muted">
          Words in note, weather, name
          <input
            className="field mt-0.5 text-sm"
            value={filter.text ?? ''}
            maxLength={80}
            onChange={({ target }) => put({ text: target.value })}
          />
        </label>
        <span className="flex-1" />
        <button type="button" className="button" onClick={() => setImporting(true)}>
          <Upload size={14} aria-hidden /> Paste or import
        </button>
        {(['csv', 'json'] as const).map((ending) => (
          <a
            key={ending}
            className="button"
            href={address(`/api/stations/${station.id}/log.${ending}?${searchOf(filter)}`)}
            download
          >
            <Download size={14} aria-hidden /> {ending.toUpperCase()}
          </a>
        ))}
      </div>
      <Table station={station} filter={filter} />
      {importing && <ImportReadings {...props} onClose={() => setImporting(false)} />}
    </div>
  )
}

/** What is in the list is what is in the file. */
const searchOf = (filter: Filter): string =>
  new URLSearchParams(
    Object.entries(filter).flatMap(([key, value]) => (value ? [[key, String(value)]] : [])),
  ).toString()

function Choose({
  label,
  value,
  options,
  all,
  onChange,
}: {
  label: string
  value: string | undefined
  options: { value: string; label: string }[]
  all: string
  onChange: (value: string | undefined) => void
}) {
  return (
    <div className="min-w-32">
      <ChoiceField
        label={label}
        value={value ?? ''}
        options={[{ value: '', label: all }, ...options]}
        onChange={(picked) => onChange(picked || undefined)}
      />
    </div>
  )
}

const columns =
  'grid grid-cols-[104px_minmax(150px,1.3fr)_minmax(120px,1fr)_86px_86px_60px_60px_minmax(80px,0.7fr)_minmax(100px,1.4fr)] gap-x-3 min-w-[980px]'

function Table({ station, filter }: { station: Station; filter: Filter }) {
  const box = useRef<HTMLDivElement>(null)
  const [total, setTotal] = useState(0)
  // Virtual rows and memoised components do not go together; nothing below is memoised on them.
  // oxlint-disable-next-line react/incompatible-library
  const rows = useVirtualizer({
    count: total,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
  })
  const items = rows.getVirtualItems()
  const first = Math.floor((items[0]?.index ?? 0) / PAGE)
  const last = Math.floor((items.at(-1)?.index ?? 0) / PAGE)
  const pages = Array.from({ length: last - first + 1 }, (_, i) => first + i)
  const loaded = useQueries({
    queries: pages.map((page) =>
      readingsQuery(station.id, { ...filter, offset: page * PAGE, limit: PAGE }),
    ),
  })
  const page = loaded.find(({ data }) => data)?.data
  const counted = page?.total
  if (counted !== undefined && counted !== total) setTotal(counted)
  const at = (index: number): Reading | undefined =>
    loaded[Math.floor(index / PAGE) - first]?.data?.readings[index % PAGE]
  const names = new Map(station.chains.map(({ id, name }) => [id, name]))
  return (
    <>
      <p className="mb-1 text-sm text-muted" role="status">
        {total === 0
          ? 'No reading fits.'
          : `${page?.more ? 'The newest ' : ''}${total.toLocaleString('en-GB')} readings${page?.more ? ' with these words; there are more.' : ''}`}
      </p>
      <div
        ref={box}
        role="table"
        aria-label="All readings"
        aria-rowcount={total}
        tabIndex={0}
        className="h-[52vh] min-h-64 overflow-auto border-t border-rule text-sm"
      >
        <div
          role="row"
          className={`${columns} sticky top-0 z-10 border-b border-rule bg-sheet py-1 text-xs text-muted`}
        >
          {['when', 'where', 'on', 'forward', 'expected', 'SWR', 'expected', 'with', 'note'].map(
            (name, i) => (
              <span key={i} role="columnheader" className={i >= 3 && i <= 6 ? 'text-right' : ''}>
                {name}
              </span>
            ),
          )}
        </div>
        <div style={{ height: rows.getTotalSize(), position: 'relative' }}>
          {items.map(({ index, start }) => (
            <div
              key={index}
              role="row"
              aria-rowindex={index + 1}
              className={`${columns} absolute inset-x-0 items-center border-b border-rule`}
              style={{ height: ROW_PX, transform: `translateY(${start}px)` }}
            >
              <Cells reading={at(index)} chain={filter.chain ? undefined : names} />
            </div>
          ))}
        </div>
      </div>
    </>
  )
}

function Cells({
  reading,
  chain,
}: {
  reading: Reading | undefined
  /** Names of the chains, where readings of all are shown. */
  chain: Map<string, string> | undefined
}) {
  const { power } = useUnits()
  if (!reading) return <span className="text-muted">…</span>
  const { forwardW, expectedW, expectedSwr, inside, note, weather, by } = reading
  const swr = swrRead(reading)
  return (
    <>
      <span role="cell" className="whitespace-nowrap" title={clockText(reading.readAt)}>
        {dayText(reading.readAt)}
      </span>
      <span role="cell" className="truncate">
        {chain ? `${chain.get(reading.chainId)}: ` : ''}
        {reading.place}
      </span>
      <span role="cell" className="truncate">
        {onText(reading)}
      </span>
      <b role="cell" className={`text-right ${inside ? 'font-normal' : 'text-danger'}`}>
        {inside ? '' : '▲ '}
        {forwardW === null ? '–' : formatPower(forwardW, power)}
      </b>
      <span role="cell" className="text-right text-muted">
        {expectedW === null ? '–' : formatPower(expectedW, power)}
      </span>
      <span role="cell" className="text-right">
        {swr === null ? '–' : formatSwr(swr)}
      </span>
      <span role="cell" className="text-right text-muted">
        {expectedSwr === null ? '–' : formatSwr(expectedSwr)}
      </span>
      <span role="cell" className="truncate">
        {reading.instrument}
      </span>
      <span role="cell" className="truncate text-muted">
        {[note, weather, by].filter(Boolean).join(', ')}
      </span>
    </>
  )
}
