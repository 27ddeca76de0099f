import { act } from '../platform/act.ts'
import { Dialog } from '../ui/Dialog.tsx'

/** Asks before something that cannot be taken back. Stays open where it fails: the reason is said, and nothing is lost. */
function Confirm({
  title,
  yes,
  said,
  run,
  onClose,
  children,
}: {
  title: string
  /** The button that does it, e.g. “Remove for good”. */
  yes: string
  /** What is said when it was done. */
  said: string
  run: () => Promise<void>
  onClose: () => void
  children: React.ReactNode
}) {
  const confirm = async () => {
    const done = await act(async () => {
      await run()
      return { said }
    })
    if (done) onClose()
  }
  return (
    <Dialog title={title} onClose={onClose}>
      {children}
      <div className="mt-4 flex gap-2">
        <button type="button" className="button" onClick={onClose}>
          Cancel
        </button>
        <button type="button" className="button button-main" onClick={() => void confirm()}>
          {yes}
        </button>
      </div>
    </Dialog>
  )
}

/** What is in the bin is gone for good after this. */
export const RemoveForGood = ({
  what,
  run,
  onClose,
}: {
  what: string
  run: () => Promise<void>
  onClose: () => void
}) => (
  <Confirm
    title="Remove for good?"
    yes="Remove for good"
    said="Removed for good."
    run={run}
    onClose={onClose}
  >
    <p>This removes {what}. It cannot be taken back; a backup made before still holds it.</p>
  </Confirm>
)
