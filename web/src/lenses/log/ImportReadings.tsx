import type { Station } from '@saltline/contract'
import {
  type ChainAtHand,
  type Choices,
  type DateOrder,
  LEAVE_OUT,
  type ReadTable,
  type Understood,
  type UnknownName,
} from '@saltline/contract/table'
import { useQueries } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useReadingsTable } from '../../compute/useReadingsTable.ts'
import type { LensProps } from '../../editor/lens.ts'
import { instrumentsOf } from '../../model/places.ts'
import { chainOnPaperQuery } from '../../platform/api/queries.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { Fold } from '../../ui/Fold.tsx'
import { Problem } from '../../ui/Problem.tsx'
import { readingsText, useImport } from './useImport.ts'

const EXAMPLE = `when, MHz, mode, where, forward W, reflected W, meter
2026-04-18 09:30, 8.294, key-down, at the radio, 121, 0.4, Skua
2026-04-18 09:41, 8.294, key-down, input of Choke, 84, 9.6, Skua`

const SHOWN = 6

/** Readings from a table: pasted, or from a file. Nothing is kept before every line is understood. */
export function ImportReadings({
  station,
  chainId,
  document,
  channel,
  onClose,
}: LensProps & { onClose: () => void }) {
  const [text, setText] = useState('')
  const [order, setOrder] = useState<DateOrder>('day first')
  const [choices, setChoices] = useState<Choices>({})
  const chains = useChains(station, { id: chainId, document })
  const options = useMemo(
    () =>
      chains && {
        ...{ chains, chainId, order, choices },
        channelId: channel.id,
        instruments: instrumentsOf(station),
      },
    [chains, chainId, channel.id, station, order, choices],
  )
  const table = useReadingsTable(text, options)
  const { looking, here, again, setAgain, count, kept, keep, problem } = useImport(table, onClose)
  return (
    <Dialog title="Readings from a table" onClose={onClose}>
      <p className="mb-2 text-sm text-muted">
        The first line names the columns; forward W or SWR must be among them. What is missing is
        taken from the channel on the desk, and the place is then the radio. What names no chain is
        saved on {document.name}. A log that was saved here as CSV comes back as it was.
      </p>
      <label className="block text-xs text-muted">
        Paste the table
        <textarea
          className="field mt-0.5 h-40 font-mono text-sm"
          placeholder={EXAMPLE}
          spellCheck={false}
          value={text}
          onChange={({ target }) => setText(target.value)}
        />
      </label>
      <label className="mt-2 block text-xs text-muted">
        or choose a file
        <input
          type="file"
          accept=".csv,.txt,.tsv,text/csv"
          className="file-input mt-0.5"
          onChange={({ target }) => void target.files?.[0]?.text().then(setText)}
        />
      </label>
      {text.trim() !== '' && !table && (
        <p role="status" className="mt-3 text-sm">
          Reading the table…
        </p>
      )}
      {table && (
        <div className="mt-3 space-y-2 text-sm">
          <div role="status" className="space-y-2">
            <p>
              {readingsText(table.count)} understood
              {table.chains.length > 1 &&
                `: ${table.chains.map(({ name, readings }) => `${readings.length} on ${name}`).join(', ')}`}
              {table.leftOut > 0 && `; ${table.leftOut} left out`}.
              {looking && ' Looking which of them are here already…'}
              {here > 0 && (
                <b>
                  {' '}
                  {here === table.count ? 'All' : here.toLocaleString('en-GB')} of them{' '}
                  {here === 1 ? 'is' : 'are'} already here{again ? '' : ' and skipped'}.
                </b>
              )}
            </p>
            {table.asKept && (
              <p>What was expected of each, and whether it was inside, comes with it.</p>
            )}
            {table.asKept ? (
              <Fold summary="What each column was taken for">
                <Taken columns={table.columns} />
              </Fold>
            ) : (
              <Taken columns={table.columns} />
            )}
          </div>
          {here > 0 && (
            <label className="flex min-h-6 items-center gap-2">
              <input
                type="checkbox"
                checked={again}
                onChange={({ target }) => setAgain(target.checked)}
              />
              save what is already here once more
            </label>
          )}
          {table.unknown.map((name) => (
            <Meant
              key={name.key}
              name={name}
              onChange={(value) => setChoices({ ...choices, [name.key]: value })}
            />
          ))}
          {table.datesEither && (
            <ChoiceField<DateOrder>
              label="Dates such as 05/04/2026 are read with"
              value={order}
              options={[
                { value: 'day first', label: 'the day first: 5 April' },
                { value: 'month first', label: 'the month first: May 4' },
              ]}
              onChange={setOrder}
            />
          )}
          {table.problems.slice(0, SHOWN).map(({ line, message }) => (
            <p key={line} className="text-danger">
              ⚠ Line {line}: {message}
            </p>
          ))}
          {table.problems.length > SHOWN && (
            <p className="text-danger">and {table.problems.length - SHOWN} lines more.</p>
          )}
          {table.understood.length > 0 && <AsUnderstood {...table} />}
        </div>
      )}
      <Problem text={problem} />
      <div className="mt-4 flex items-center gap-3">
        <button
          type="button"
          className="button button-main"
          disabled={count === 0 || kept !== null}
          onClick={() => void keep()}
        >
          {here > 0 && !again && count > 0
            ? `Save the other ${count.toLocaleString('en-GB')}`
            : 'Save them'}
        </button>
        {kept !== null && (
          <p role="status" className="text-sm">
            {kept.toLocaleString('en-GB')} of {readingsText(count)} saved…
          </p>
        )}
      </div>
    </Dialog>
  )
}

const Taken = ({ columns }: Pick<ReadTable, 'columns'>) => (
  <p className="text-muted">
    {columns.map(({ heading, as }) => `“${heading}”: ${as ?? 'left out'}`).join(' · ')}
  </p>
)

/**
 * Every chain of the station, the one on the desk as it is edited; null until all were asked for. One that cannot be had is left
 * out: readings that name it are then asked about.
 */
function useChains(station: Station, desk: ChainAtHand): ChainAtHand[] | null {
  const others = station.chains.filter(({ id }) => id !== desk.id)
  const { documents, pending } = useQueries({
    queries: others.map(({ id }) => chainOnPaperQuery(id)),
    combine: (results) => ({
      documents: results.map(({ data }) => data?.document),
      pending: results.some(({ isPending }) => isPending),
    }),
  })
  return useMemo(() => {
    const found = others.flatMap(({ id }, i) => {
      const document = documents[i]
      return document ? [{ id, document }] : []
    })
    return pending ? null : [desk, ...found]
    // oxlint-disable-next-line react/exhaustive-deps
  }, [documents, pending, desk.id, desk.document])
}

/** A name that this station does not know: what is meant by it. */
const Meant = ({
  name: { message, options, line, count },
  onChange,
}: {
  name: UnknownName
  onChange: (value: string) => void
}) => (
  <div className="border-l-2 border-caution pl-2">
    <ChoiceField
      label={`Line ${line}${count > 1 ? ` and ${count - 1} more` : ''}: ${message}`}
      value=""
      options={[
        { value: '', label: 'choose what is meant' },
        ...options,
        { value: LEAVE_OUT, label: count > 1 ? 'leave these lines out' : 'leave this line out' },
      ]}
      onChange={onChange}
    />
  </div>
)

/** A few lines as they are understood, each with the chain and the channel that it goes to. */
const AsUnderstood = ({ understood, chains }: ReadTable) => {
  const columns = (['line', 'when', 'on', 'chain', 'channel', 'place', 'read'] as const).filter(
    (column) => column !== 'chain' || chains.length > 1,
  )
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left" aria-label="As understood">
        <thead className="text-xs text-muted">
          <tr className="border-b border-rule [&>th]:py-0.5 [&>th]:pr-3 [&>th]:font-normal">
            {columns.map((column) => (
              <th key={column} scope="col">
                {headings[column]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {understood.map((row) => (
            <tr key={row.line} className="border-b border-rule [&>td]:py-0.5 [&>td]:pr-3">
              {columns.map((column) => (
                <td key={column} className={column === 'when' ? 'whitespace-nowrap' : ''}>
                  {row[column]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

const headings: Record<keyof Understood, string> = {
  line: 'line',
  when: 'read',
  on: 'on',
  chain: 'chain',
  channel: 'goes to',
  place: 'place',
  read: 'figures',
}
