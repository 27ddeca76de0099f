import { lazy, Suspense } from 'react'
import { Outlet } from 'react-router'
import { useChanges } from '../platform/api/changes.ts'
import { DamagedDatabase } from './DamagedDatabase.tsx'
import { NewerServer } from './NewerServer.tsx'
import { useHelp } from './useHelp.ts'

const Help = lazy(() => import('./Help.tsx'))

/** What every page has around it: the way past its head by keyboard, and help. */
export function Root() {
  const help = useHelp()
  useChanges()
  return (
    <>
      <button
        type="button"
        className="skip"
        onClick={() => {
          const main = document.querySelector<HTMLElement>('main')
          main?.setAttribute('tabindex', '-1')
          main?.focus()
        }}
      >
        Skip to the content
      </button>
      <Outlet />
      <NewerServer />
      <DamagedDatabase />
      {help.at !== null && (
        <Suspense>
          <Help at={help.at} onClose={help.close} />
        </Suspense>
      )}
    </>
  )
}
