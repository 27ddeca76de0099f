import { CloudOff } from 'lucide-react'
import { lazy, Suspense, useState } from 'react'
import { useReach } from '../platform/api/reach.ts'
import { useOutbox } from '../platform/outbox/index.ts'

const WaitingDialog = lazy(() => import('./WaitingDialog.tsx'))

/** Says when the server does not answer, and what waits to be sent; nothing where all is well. */
export function WaitingBadge() {
  const entries = useOutbox()
  const { answers } = useReach()
  const [open, setOpen] = useState(false)
  const refused = entries.filter((entry) => entry.refused !== undefined).length
  const words = [
    ...(answers ? [] : ['offline']),
    ...(entries.length > refused ? [`${entries.length - refused} waiting`] : []),
    ...(refused > 0 ? [`${refused} refused`] : []),
  ]
  if (words.length === 0 && !open) return null
  return (
    <>
      {words.length > 0 && (
        <button
          type="button"
          className={`quiet max-sm:!px-1.5 ${refused > 0 ? '!text-danger' : '!text-caution'}`}
          onClick={() => setOpen(true)}
        >
          <CloudOff size={15} aria-hidden />
          <span className="max-sm:sr-only">{words.join(', ')}</span>
          {entries.length > 0 && (
            <span aria-hidden className="sm:hidden">
              {entries.length}
            </span>
          )}
        </button>
      )}
      {open && (
        <Suspense>
          <WaitingDialog onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  )
}
