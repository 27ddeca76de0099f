import { address } from '../../platform/base.ts'
import {
  type Backup as Holds,
  type BackupPreview,
  clockText,
  dayText,
  type KeptCopy,
  type Restored,
} from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { Download } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import {
  backupStateQuery,
  keptCopiesQuery,
  makeCopy,
  previewBackup,
  restoreBackup,
  restoreCopy,
} from '../../platform/api/backupQueries.ts'
import { act } from '../../platform/act.ts'
import { databaseIsDamaged } from '../../platform/api/damaged.ts'
import { errorText } from '../../platform/errorText.ts'
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
  const keptAs = step.kind === 'done' ? step.restored.keptAs : null
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
            Everything that is here now is replaced by {from}. What is here now is{' '}
            {databaseIsDamaged.get()
              ? 'damaged, and moved aside.'
              : 'kept, so that this can be undone.'}
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
            {step.restored.aside && ` The damaged database is kept as ${step.restored.aside}.`}
          </p>
          <div className="mt-4 flex gap-2">
            <a className="button button-main" href={address('/')}>
              Open it
            </a>
            {!step.undone && keptAs !== null && (
              <button
                type="button"
                className="button"
                onClick={() => void run(() => restoreCopy(keptAs), true)}
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
