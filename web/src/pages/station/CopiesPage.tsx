import { clockText, dayText } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { databaseIsDamaged } from '../../platform/api/damaged.ts'
import { keptCopiesQuery } from '../../platform/api/backupQueries.ts'
import { useSource } from '../../platform/store.ts'
import { Page } from '../../shell/Page.tsx'
import { Backup } from './Backup.tsx'

/** The copies of everything, for when the stations themselves cannot be shown. */
export function CopiesPage() {
  const damaged = useSource(databaseIsDamaged)
  const { data: kept } = useQuery(keptCopiesQuery)
  const [newest] = kept ?? []
  return (
    <Page title="Copies of the database">
      <div className="mx-auto max-w-2xl px-5 py-5">
        <h2 className="mb-3 text-xl font-bold">Copies of the database</h2>
        {damaged && (
          <p className="mb-4 border-l-4 border-danger pl-3">
            Restoring a copy moves the damaged database aside, under another name in the same
            folder, and takes the copy in its place.{' '}
            {newest
              ? `The newest copy is of ${dayText(newest.keptAt)}, ${clockText(newest.keptAt)}: what was entered after that is not in it.`
              : kept &&
                'There is no copy on the server: restore a backup that you saved elsewhere.'}
          </p>
        )}
        <Backup />
      </div>
    </Page>
  )
}
