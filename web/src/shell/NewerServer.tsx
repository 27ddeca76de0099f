import { serverIsNewer } from '../platform/api/newer.ts'
import { useSource } from '../platform/store.ts'

/** Said on every page while the server has a newer interface; what is typed is kept by its own drafts. */
export function NewerServer() {
  if (!useSource(serverIsNewer)) return null
  return (
    <p
      role="status"
      className="fixed inset-x-0 bottom-0 z-40 flex flex-wrap items-center justify-center gap-x-4 gap-y-1 border-t border-edge bg-paper px-4 py-2 text-sm print:hidden"
    >
      Salt Line was updated on the server. Edits and half-typed readings are kept.
      <button type="button" className="button" onClick={() => location.reload()}>
        Load the new version
      </button>
    </p>
  )
}
