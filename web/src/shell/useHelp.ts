import { useCallback } from 'react'
import { useLocation, useNavigate } from 'react-router'

/** Help lies over every page; the address says that it is open and where: `#help/return-loss`. */
export function useHelp() {
  const { hash, search } = useLocation()
  const navigate = useNavigate()
  const open = useCallback(
    (at?: string) => void navigate({ search: location.search, hash: at ? `#help/${at}` : '#help' }),
    [navigate],
  )
  return {
    /** Null where it is closed. */
    at: hash === '#help' || hash.startsWith('#help/') ? hash.slice('#help/'.length) : null,
    open,
    close: () => void navigate({ search, hash: '' }, { replace: true }),
  }
}
