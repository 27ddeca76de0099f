import { isRouteErrorResponse, useRouteError } from 'react-router'
import { errorText } from '../platform/errorText.ts'
import { Trouble } from './Trouble.tsx'

/** What browsers say when a part of the program is no longer where it was. */
const MISSING_PART =
  /dynamically imported module|importing a module script|module script failed|ChunkLoad|preload/i

/** A page that broke while it was shown, or a part of it that could not be fetched. */
export function RouteTrouble() {
  const error = useRouteError()
  if (isRouteErrorResponse(error))
    return <Trouble error={new Error('There is no page at this address.')} />
  const text = errorText(error)
  return MISSING_PART.test(text) ? (
    <Trouble
      error={
        new Error(
          'A part of this page could not be fetched: Salt Line was updated meanwhile, or its server does not answer. Reload the page; what you edited is kept.',
        )
      }
    />
  ) : (
    <Trouble
      error={
        new Error(
          `Salt Line made a mistake here (${text}). Reload the page; what you edited is kept.`,
        )
      }
    />
  )
}
