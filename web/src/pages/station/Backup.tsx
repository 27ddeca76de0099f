import type { Backup as Holds, BackupPreview, KeptCopy, Restored } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { Download } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import {
  keptCopiesQuery,
  previewBackup,
  restoreBackup,
  restoreCopy,
} from '../../platform/api/backupQueries.ts'
import { errorText } from '../../platform/errorText.ts'
import { clockText, dayText } from '../../model/places.ts'
import { Dialog } from '../../ui/Dialog.tsx'

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
      {kept.length > 0 && (
        <div className="mt-3 text-sm">
          <h3 className="text-muted">As it was before a restore</h3>
          <ul>
            {kept.map((one) => (
              <li key={one.name} className="flex items-baseline gap-3 border-b border-rule py-1">
                <span className="min-w-0 flex-1">
                  {momentText(one.keptAt)}
                  <span className="text-muted">, {sizeText(one.bytes)}</span>
                </span>
                <button
                  type="button"
                  className="link"
                  aria-label={`Bring back how it was on ${momentText(one.keptAt)}`}
                  onClick={() => setCopy(one)}
                >
                  restore…
                </button>
              </li>
            ))}
          </ul>
        </div>
      )}
      {file && <RestoreFile file={file} onClose={() => setFile(null)} />}
      {copy && (
        <Restore
          title="Bring back how it was"
          from={`what was here on ${momentText(copy.keptAt)}`}
          restore={() => restoreCopy(copy.name)}
          onClose={() => setCopy(null)}
        />
      )}
    </section>
  )
}

const momentText = (at: string): string => `${dayText(at)}, ${clockText(at)}`

const sizeText = (bytes: number): string =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`

/** Looks into the file first. */
function RestoreFile({ file, onClose }: { file: File; onClose: () => void }) {
  const [found, setFound] = useState<BackupPreview | { failed: string } | null>(null)
  useEffect(() => {
    let here = true
    void previewBackup(file)
      .catch((error: unknown) => ({ failed: errorText(error) }))
      .then((result) => here && setFound(result))
    return () => {
      here = false
    }
  }, [file])
  if (found && !('failed' in found))
    return (
      <Restore
        title="Restore a backup"
        from={`what “${file.name}” holds`}
        preview={found}
        restore={() => restoreBackup(file)}
        onClose={onClose}
      />
    )
  return (
    <Dialog title="Restore a backup" onClose={onClose}>
      {found ? (
        <p role="alert" className="text-danger">
          ⚠ {found.failed}
        </p>
      ) : (
        <p role="status">Looking into “{file.name}”…</p>
      )}
    </Dialog>
  )
}

type Step =
  | { kind: 'asking' | 'working' }
  | { kind: 'failed'; text: string }
  | { kind: 'done'; restored: Restored; undone: boolean }

/** Asks, replaces everything, and offers the way back. */
function Restore({
  title,
  from,
  preview,
  restore,
  onClose,
}: {
  title: string
  from: string
  preview?: BackupPreview
  restore: () => Promise<Restored>
  onClose: () => void
}) {
  const [step, setStep] = useState<Step>({ kind: 'asking' })
  const run = async (work: () => Promise<Restored>, undone: boolean) => {
    setStep({ kind: 'working' })
    try {
      setStep({ kind: 'done', restored: await work(), undone })
    } catch (error) {
      setStep({ kind: 'failed', text: errorText(error) })
    }
  }
  return (
    <Dialog title={title} onClose={onClose}>
      {step.kind === 'asking' && (
        <>
          {preview && (
            <div className="mb-3 grid gap-3 sm:grid-cols-2">
              <Held title="In the file" holds={preview.file} />
              <Held title="Here now" holds={preview.here} />
            </div>
          )}
          <p>
            Everything that is here now is replaced by {from}. What is here now is kept, so that
            this can be undone.
          </p>
          <div className="mt-4 flex gap-2">
            <button
              type="button"
              className="button button-main"
              onClick={() => void run(restore, false)}
            >
              Replace everything
            </button>
            <button type="button" className="button" onClick={onClose}>
              Leave it as it is
            </button>
          </div>
        </>
      )}
      {step.kind === 'working' && <p role="status">Restoring…</p>}
      {step.kind === 'failed' && (
        <p role="alert" className="text-danger">
          ⚠ {step.text}
        </p>
      )}
      {step.kind === 'done' && (
        <>
          <p role="status">
            {step.undone ? 'Undone. ' : 'Restored. '}
            Here now: {totalText(step.restored)}.
          </p>
          <div className="mt-4 flex gap-2">
            <a className="button button-main" href="/">
              Open it
            </a>
            {!step.undone && (
              <button
                type="button"
                className="button"
                onClick={() => void run(() => restoreCopy(step.restored.keptAs), true)}
              >
                Undo
              </button>
            )}
          </div>
        </>
      )}
    </Dialog>
  )
}

const counted = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en-GB')} ${n === 1 ? one : many}`

const totalText = ({ stations }: Holds): string => {
  const readings = stations.reduce((sum, station) => sum + station.readings, 0)
  return `${counted(stations.length, 'station')}, ${counted(readings, 'reading')}`
}

function Held({ title, holds }: { title: string; holds: Holds }) {
  return (
    <section aria-label={title}>
      <h3 className="border-b border-rule text-sm text-muted">{title}</h3>
      <ul>
        {holds.stations.map(({ name, chains, readings, firstAt, lastAt }, i) => (
          <li key={i} className="py-1">
            <b>{name}</b>
            <span className="block text-sm text-muted">
              {counted(chains, 'chain')}, {counted(readings, 'reading')}
              {firstAt && lastAt && (
                <span className="block">
                  {dayText(firstAt)} to {dayText(lastAt)}
                </span>
              )}
            </span>
          </li>
        ))}
        {holds.stations.length === 0 && <li className="py-1 text-muted">no station</li>}
      </ul>
      {holds.editedAt && (
        <p className="text-sm text-muted">last edit {momentText(holds.editedAt)}</p>
      )}
    </section>
  )
}
