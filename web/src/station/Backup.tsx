import { errorText } from '../app/errorText.ts'
import { Download } from 'lucide-react'
import { useRef, useState } from 'react'
import { restoreBackup } from '../api/logQueries.ts'
import { Dialog } from '../parts/Dialog.tsx'

/** The whole database as a plain SQLite file, there and back. */
export function Backup() {
  const input = useRef<HTMLInputElement>(null)
  const [file, setFile] = useState<File | null>(null)
  return (
    <section aria-label="Safe keeping">
      <h2 className="border-b border-ink pb-1 font-bold">Safe keeping</h2>
      <p className="py-1.5 text-sm text-muted">
        A backup is one plain SQLite file with every station, chain, antenna and reading.
      </p>
      <div className="flex gap-2">
        <a className="button" href="/api/backup" download>
          <Download size={14} aria-hidden /> Back up
        </a>
        <button type="button" className="button" onClick={() => input.current?.click()}>
          Restore…
        </button>
        <input
          ref={input}
          type="file"
          accept=".sqlite,.db,.sqlite3"
          className="sr-only"
          tabIndex={-1}
          aria-label="Backup file"
          onChange={(event) => {
            setFile(event.target.files?.[0] ?? null)
            event.target.value = ''
          }}
        />
      </div>
      {file && <Restore file={file} onClose={() => setFile(null)} />}
    </section>
  )
}

function Restore({ file, onClose }: { file: File; onClose: () => void }) {
  const [state, setState] = useState<
    { kind: 'asking' | 'working' } | { kind: 'done' | 'failed'; text: string }
  >({ kind: 'asking' })
  const run = async () => {
    setState({ kind: 'working' })
    try {
      const { stations, readings, keptAs } = await restoreBackup(file)
      setState({
        kind: 'done',
        text: `Restored: ${stations} station${stations === 1 ? '' : 's'}, ${readings} readings. The database as it was before lies beside it, as ${keptAs}.`,
      })
    } catch (error) {
      setState({ kind: 'failed', text: errorText(error) })
    }
  }
  return (
    <Dialog title="Restore a backup" onClose={onClose}>
      {state.kind === 'asking' && (
        <>
          <p>
            Everything that is here now is replaced by what <b>{file.name}</b> holds. What is here
            now is kept beside the database first.
          </p>
          <div className="mt-4 flex gap-2">
            <button type="button" className="button button-main" onClick={() => void run()}>
              Replace everything
            </button>
            <button type="button" className="button" onClick={onClose}>
              Leave it as it is
            </button>
          </div>
        </>
      )}
      {state.kind === 'working' && <p role="status">Restoring…</p>}
      {state.kind === 'failed' && (
        <p role="alert" className="text-danger">
          ⚠ {state.text}
        </p>
      )}
      {state.kind === 'done' && (
        <>
          <p role="status">{state.text}</p>
          <a className="button button-main mt-4" href="/">
            Open it
          </a>
        </>
      )}
    </Dialog>
  )
}
