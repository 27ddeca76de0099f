import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import { addReadings } from '../../api/logQueries.ts'
import { Dialog } from '../../parts/Dialog.tsx'
import { instrumentsOf } from './places.ts'
import { readingsFromText } from './readingsFromText.ts'
import type { LogProps } from './Round.tsx'
import { Problem } from '../../parts/Problem.tsx'

const EXAMPLE = `when, MHz, mode, where, forward W, reflected W, meter
2026-04-18 09:30, 8.294, key-down, at the radio, 121, 0.4, Skua
2026-04-18 09:41, 8.294, key-down, before Choke, 84, 9.6, Skua`

const SHOWN = 6

/** Readings from a table: pasted, or from a file. Nothing is kept before every line is understood. */
export function ImportReadings({
  station,
  chainId,
  document,
  channel,
  onClose,
}: LogProps & { onClose: () => void }) {
  const [text, setText] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const table = useMemo(
    () =>
      text.trim() === ''
        ? null
        : readingsFromText(text, document, channel.id, instrumentsOf(station)),
    [text, document, channel.id, station],
  )
  const keep = async () => {
    if (!table) return
    try {
      const added = await addReadings(chainId, table.readings)
      toast(`${added} readings kept`)
      onClose()
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    }
  }
  return (
    <Dialog title="Readings from a table" onClose={onClose}>
      <p className="mb-2 text-sm text-muted">
        The first line names the columns; forward W or SWR must be among them. What is missing is
        taken from the channel on the desk, and the place is then the radio. They are kept on{' '}
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
      {table && (
        <div className="mt-3 text-sm" role="status">
          <p>
            {table.readings.length === 1 ? '1 reading' : `${table.readings.length} readings`}{' '}
            understood.
            {table.unknown.length > 0 && (
              <span className="text-muted"> Left out: {table.unknown.join(', ')}.</span>
            )}
          </p>
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
        Keep them
      </button>
    </Dialog>
  )
}
