import { address } from '../../platform/base.ts'
import { type KeptCopy } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { Download } from 'lucide-react'
import { useRef, useState } from 'react'
import {
  backupStateQuery,
  keptCopiesQuery,
  makeCopy,
  restoreCopy,
} from '../../platform/api/backupQueries.ts'
import { act } from '../../platform/act.ts'
import { momentText, RestoreFile, Restore, totalText } from './RestoreFile.tsx'

/** The whole database as a plain SQLite file, there and back. */
export function Backup() {
  const input = useRef<HTMLInputElement>(null)
  const [file, setFile] = useState<File | null>(null)
  const [copy, setCopy] = useState<KeptCopy | null>(null)
  const { data: kept = [] } = useQuery(keptCopiesQuery)
  return (
    <section aria-label="Backup">
      <h2 className="border-b border-ink pb-1 font-bold">Backup</h2>
      <p className="py-1.5 text-sm text-muted">
        A backup is one plain SQLite file with every station, chain, antenna and reading. A copy is
        made every night, and before an update or a restore.
      </p>
      <div className="flex gap-2">
        <a className="button" href={address('/api/backup')} download>
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
      <Copies kept={kept} onRestore={setCopy} />
      {file && <RestoreFile file={file} onClose={() => setFile(null)} />}
      {copy && (
        <Restore
          title={`Bring back how it was on ${momentText(copy.keptAt)}`}
          from={`what was here on ${momentText(copy.keptAt)}`}
          restore={() => restoreCopy(copy.name)}
          onClose={() => setCopy(null)}
        />
      )}
    </section>
  )
}

const reasons: Record<KeptCopy['why'], string> = {
  nightly: 'nightly',
  migration: 'before an update',
  restore: 'before a restore',
  asked: 'on request',
}

/** So many are shown at first: mostly it is the last one that is wanted. */
const FIRST = 4

/** What is kept by itself: when, why, what is in it; each can be loaded, and restored. */
function Copies({
  kept,
  onRestore,
}: {
  kept: readonly KeptCopy[]
  onRestore: (copy: KeptCopy) => void
}) {
  const { data: state } = useQuery(backupStateQuery)
  const [all, setAll] = useState(false)
  const [busy, setBusy] = useState(false)
  const make = async () => {
    setBusy(true)
    await act(async () => {
      const { keptAt } = await makeCopy()
      return { said: `A copy was made and checked: ${momentText(keptAt)}.` }
    })
    setBusy(false)
  }
  return (
    <div className="mt-3 text-sm">
      <h3 className="text-muted">Copies on the server</h3>
      <ul>
        {(all ? kept : kept.slice(0, FIRST)).map((one) => (
          <li key={one.name} className="flex items-baseline gap-3 border-b border-rule py-1">
            <span className="min-w-0 flex-1">
              {momentText(one.keptAt)}, {reasons[one.why]}
              <span className="block text-muted">
                {one.holds ? totalText(one.holds) : 'not looked into'}, {sizeText(one.bytes)}
              </span>
            </span>
            <a
              className="link"
              aria-label={`Load the copy of ${momentText(one.keptAt)}`}
              href={address(`/api/backup/kept/${encodeURIComponent(one.name)}`)}
              download
            >
              load
            </a>
            <button
              type="button"
              className="link"
              aria-label={`Bring back how it was on ${momentText(one.keptAt)}`}
              onClick={() => onRestore(one)}
            >
              restore…
            </button>
          </li>
        ))}
        {kept.length === 0 && <li className="py-1 text-muted">None yet.</li>}
      </ul>
      <div className="mt-1.5 flex flex-wrap items-center gap-x-4">
        <button type="button" className="button" disabled={busy} onClick={() => void make()}>
          Copy now
        </button>
        {kept.length > FIRST && (
          <button type="button" className="link" onClick={() => setAll(!all)}>
            {all ? 'the newest alone' : `all ${kept.length}`}
          </button>
        )}
      </div>
      {state && (
        <p className="mt-1.5 text-xs break-words text-muted">
          In {state.folder}. A folder on another disk (--backups) survives a failure of this one.
        </p>
      )}
    </div>
  )
}

const sizeText = (bytes: number): string =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`
