import { address } from '../../platform/base.ts'
import {
  type Backup as Holds,
  type BackupPreview,
  clockText,
  dayText,
  type Restored,
} from '@saltline/contract'
import { useEffect, useState } from 'react'
import { previewBackup, restoreBackup, restoreCopy } from '../../platform/api/backupQueries.ts'
import { databaseIsDamaged } from '../../platform/api/damaged.ts'
import { errorText } from '../../platform/errorText.ts'
import { Dialog } from '../../ui/Dialog.tsx'

export const momentText = (at: string): string => `${dayText(at)}, ${clockText(at)}`

/** Looks into the file first. */
export function RestoreFile({ file, onClose }: { file: File; onClose: () => void }) {
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
export function Restore({
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

export const totalText = ({ stations }: Holds): string => {
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
