import { useMemo, useState } from 'react'
import { addReadings, deleteReadings } from '../../platform/api/logQueries.ts'
import { errorText } from '../../platform/errorText.ts'
import { actOnRecord } from '../../platform/wayBack.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { instrumentsOf } from '../../model/places.ts'
import type { DateOrder } from '../../model/readings/readDate.ts'
import type { Understood } from '../../model/readings/readingsFromText.ts'
import { useReadingsTable } from '../../compute/useReadingsTable.ts'
import type { LensProps } from '../../editor/lens.ts'
import { Problem } from '../../ui/Problem.tsx'

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
  const [problem, setProblem] = useState<string | null>(null)
  const [order, setOrder] = useState<DateOrder>('day first')
  const options = useMemo(
    () => ({ document, channelId: channel.id, instruments: instrumentsOf(station), order }),
    [document, channel.id, station, order],
  )
  const table = useReadingsTable(text, options)
  const keep = async () => {
    if (!table) return
    try {
      const ids = await addReadings(chainId, table.readings)
      onClose()
      await actOnRecord(() =>
        Promise.resolve({
          said: ids.length === 1 ? '1 reading saved.' : `${ids.length} readings saved.`,
          undo: () => deleteReadings(chainId, ids),
        }),
      )
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  return (
    <Dialog title="Readings from a table" onClose={onClose}>
      <p className="mb-2 text-sm text-muted">
        The first line names the columns; forward W or SWR must be among them. What is missing is
        taken from the channel on the desk, and the place is then the radio. They are saved on{' '}
        {document.name}.
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
        <div className="mt-3 space-y-2 text-sm" role="status">
          <p>
            {table.readings.length === 1 ? '1 reading' : `${table.readings.length} readings`}{' '}
            understood.
          </p>
          <p className="text-muted">
            {table.columns
              .map(({ heading, as }) => `“${heading}”: ${as ?? 'left out'}`)
              .join(' · ')}
          </p>
          {table.understood.length > 0 && <AsUnderstood rows={table.understood} />}
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
        </div>
      )}
      <Problem text={problem} />
      <button
        type="button"
        className="button button-main mt-4"
        disabled={!table || table.readings.length === 0 || table.problems.length > 0}
        onClick={() => void keep()}
      >
        Save them
      </button>
    </Dialog>
  )
}

/** A few lines as they are understood, each with the channel that it goes to. */
const AsUnderstood = ({ rows }: { rows: readonly Understood[] }) => (
  <div className="overflow-x-auto">
    <table className="w-full text-left" aria-label="As understood">
      <thead className="text-xs text-muted">
        <tr className="border-b border-rule [&>th]:py-0.5 [&>th]:pr-3 [&>th]:font-normal">
          <th scope="col">line</th>
          <th scope="col">read</th>
          <th scope="col">on</th>
          <th scope="col">goes to</th>
          <th scope="col">place</th>
          <th scope="col">figures</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ line, when, on, channel, place, read }) => (
          <tr key={line} className="border-b border-rule [&>td]:py-0.5 [&>td]:pr-3">
            <td>{line}</td>
            <td className="whitespace-nowrap">{when}</td>
            <td>{on}</td>
            <td>{channel}</td>
            <td>{place}</td>
            <td>{read}</td>
          </tr>
        ))}
      </tbody>
    </table>
  </div>
)
