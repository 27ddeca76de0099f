import type { ChainDocument, ChannelDocument, Station } from '@saltline/contract'
import { decimals, formatDb, formatFrequency, standingOf } from '@saltline/core'
import type { Cell, CompareRow } from '../../compute/tasks/compare.ts'
import type { Expense, Misfit } from '../../model/alternatives.ts'
import { kindName, partName } from '../../model/headroomWords.ts'
import { wattsText } from '../../model/wattsText.ts'
import { useUnits } from '../../platform/preferences.ts'
import { heardText, priceText, signedDb, surerText } from './verdict.ts'

export interface TableRow {
  /** null for the chain as it stands. */
  id: string | null
  name: string
  document: ChainDocument
  row: CompareRow | undefined
  expense: Expense
  misfits: readonly Misfit[]
  beatenBy: string | null
}

/** Alternatives by channels: watts, decibels, words, the nearest limit, price, weight and bend. */
export function AlternativesTable({
  rows,
  channels,
  channel,
  station,
  chosen,
  onChoose,
  onHover,
  onPick,
}: {
  rows: readonly TableRow[]
  channels: readonly ChannelDocument[]
  channel: ChannelDocument
  station: Station
  chosen: string | null
  onChoose: (id: string | null) => void
  onHover: (id: string | null | undefined) => void
  onPick: (channelId: string) => void
}) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-right text-sm" aria-label="Alternatives">
        <thead className="text-muted">
          <tr className="border-b border-rule [&>th]:py-1 [&>th]:pl-3 [&>th]:font-normal">
            <th scope="col" className="!pl-0 text-left">
              alternative
            </th>
            {channels.map((each) => (
              <th
                key={each.id}
                scope="col"
                className={each.id === channel.id ? 'text-ink' : 'max-sm:hidden'}
              >
                <button
                  type="button"
                  className="min-h-6 whitespace-nowrap hover:text-tide"
                  aria-pressed={each.id === channel.id}
                  onClick={() => onPick(each.id)}
                >
                  {formatFrequency(each.frequencyHz)}
                </button>
              </th>
            ))}
            <th scope="col" className="text-left">
              nearest limit
            </th>
            <th scope="col">{station.currency}</th>
            <th scope="col" className="max-sm:hidden">
              kg
            </th>
            <th scope="col" className="max-sm:hidden" title="least bend radius of what is new, mm">
              bend
            </th>
          </tr>
        </thead>
        <tbody onMouseLeave={() => onHover(undefined)}>
          {rows.map((row) => (
            <Row
              key={row.id ?? ''}
              {...row}
              {...{ channels, channel, station, onChoose, onHover }}
              isChosen={row.id === chosen}
            />
          ))}
        </tbody>
      </table>
    </div>
  )
}

function Row({
  id,
  name,
  document,
  row,
  expense,
  misfits,
  beatenBy,
  channels,
  channel,
  station,
  isChosen,
  onChoose,
  onHover,
}: TableRow & {
  channels: readonly ChannelDocument[]
  channel: ChannelDocument
  station: Station
  isChosen: boolean
  onChoose: (id: string | null) => void
  onHover: (id: string | null) => void
}) {
  return (
    <tr
      className={`border-b border-rule align-top [&>td]:py-1.5 [&>td]:pl-3 ${isChosen ? 'bg-paper' : ''}`}
      onMouseEnter={() => onHover(id)}
    >
      <th scope="row" className="max-w-56 py-1.5 pl-1 text-left font-normal">
        <button
          type="button"
          className={`min-h-6 text-left hover:text-tide ${isChosen ? 'font-bold' : ''}`}
          aria-pressed={isChosen}
          onClick={() => onChoose(id)}
        >
          {name}
        </button>
        {misfits.length > 0 && (
          <span className="block text-xs text-danger">
            ▲ {misfits.length === 1 ? 'a change' : `${misfits.length} changes`} no longer fits
          </span>
        )}
        {beatenBy && <span className="block text-xs text-muted">beaten by {beatenBy}</span>}
      </th>
      {channels.map((each) => (
        <td
          key={each.id}
          className={each.id === channel.id ? '' : 'whitespace-nowrap max-sm:hidden'}
        >
          <Figure cell={row?.[each.id]} isBase={id === null} isCurrent={each.id === channel.id} />
        </td>
      ))}
      <td className="text-left">
        <Nearest cell={row?.[channel.id]} document={document} />
      </td>
      <td className="whitespace-nowrap" title={expense.unpriced.join(', ')}>
        {id === null ? '–' : expense.price === null ? '?' : decimals(expense.price, 0)}
        <span className="sr-only">
          {id !== null && expense.price === null && priceText(null, station.currency)}
        </span>
      </td>
      <td className="max-sm:hidden">
        {expense.weightKg === null ? '?' : decimals(expense.weightKg, 1)}
      </td>
      <td className="whitespace-nowrap max-sm:hidden">
        {expense.bendMm === null ? '–' : `${expense.bendMm}\u00a0mm`}
      </td>
    </tr>
  )
}

function Figure({
  cell,
  isBase,
  isCurrent,
}: {
  cell: Cell | string | undefined
  isBase: boolean
  isCurrent: boolean
}) {
  const { power } = useUnits()
  if (cell === undefined) return <span className="text-muted">…</span>
  if (typeof cell === 'string') return <span title={cell}>no figure</span>
  return (
    <>
      <b className={isCurrent ? 'text-base' : 'font-normal'}>
        {wattsText(cell.antennaW, power, cell.range ?? undefined)}
      </b>
      {!isBase && cell.db !== null && (
        <span className="block text-xs text-muted">
          {signedDb(cell.db)}
          {isCurrent && Math.abs(cell.db) >= 0.05 && `, ${heardText(cell.db)}`}
          {cell.difference && <span className="block">{surerText(cell)}</span>}
        </span>
      )}
    </>
  )
}

function Nearest({ cell, document }: { cell: Cell | string | undefined; document: ChainDocument }) {
  if (typeof cell !== 'object') return null
  const { nearest } = cell
  if (nearest?.headroomDb == null) return <span className="text-muted">not known</span>
  const standing = standingOf(nearest)
  return (
    <span className={nearest.headroomDb < 0 ? 'text-danger' : ''}>
      {standing === 'over'
        ? `▲ over by ${formatDb(-nearest.headroomDb)}`
        : `${standing === 'tight' ? '◐ tight, ' : ''}${formatDb(nearest.headroomDb)} left`}
      <span className="block text-xs text-muted">
        {partName(document, nearest.part)}, {kindName(nearest)}
      </span>
    </span>
  )
}
