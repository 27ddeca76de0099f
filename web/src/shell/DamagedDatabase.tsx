import { Link, useLocation } from 'react-router'
import { databaseIsDamaged } from '../platform/api/damaged.ts'
import { useSource } from '../platform/store.ts'

/** Said on every page while the server cannot save, with the way out of it. */
export function DamagedDatabase() {
  const damaged = useSource(databaseIsDamaged)
  const { pathname } = useLocation()
  if (!damaged) return null
  return (
    <div
      role="alert"
      className="fixed inset-x-0 bottom-0 z-40 flex flex-wrap items-center gap-x-4 gap-y-1 border-t-2 border-danger bg-sheet px-4 py-2 text-sm"
    >
      <span>
        ▲ The database on the server is damaged. It is read as far as it can be; nothing is saved.
      </span>
      {pathname !== '/copies' && (
        <Link className="link" to="/copies">
          Restore a copy
        </Link>
      )}
    </div>
  )
}
