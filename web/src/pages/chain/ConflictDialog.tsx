import type { ChannelDocument } from '@saltline/contract'
import type { SweepLoad } from '@saltline/core'
import { Dialog } from 'radix-ui'
import { useUnits } from '../../platform/preferences.ts'
import { wattsText } from '../../model/wattsText.ts'
import { answerChannel, chainOfDocument } from '../../model/answers.ts'
import type { Conflict } from '../../editor/chainEditor.ts'
import { describeChange } from '../../model/describeChange.ts'

/** Two edits met: both are shown, one is chosen, the other stays among the revisions. */
export default function ConflictDialog({
  conflict,
  channel,
  sweep,
  onResolve,
}: {
  conflict: Conflict
  channel: ChannelDocument
  sweep: SweepLoad | undefined
  onResolve: (choice: 'mine' | 'theirs') => void
}) {
  const { power } = useUnits()
  const { mine, theirs } = conflict
  const watts = (document: typeof mine): string => {
    const chain = chainOfDocument(document, sweep)
    const answer = chain && answerChannel(chain, document.transmitter, channel)
    return answer?.ok
      ? wattsText(answer.solution.antennaW, power, answer.spread?.antennaW)
      : 'no figure'
  }
  const differences = describeChange(theirs.document, mine)
  return (
    <Dialog.Root open>
      <Dialog.Portal>
        <Dialog.Overlay className="overlay" />
        <Dialog.Content className="dialog" onEscapeKeyDown={(event) => event.preventDefault()}>
          <Dialog.Title className="text-lg font-bold">
            This chain was edited in another window
          </Dialog.Title>
          <Dialog.Description className="mt-1 mb-4">
            Both edits are kept. Choose the one to go on with; the other stays among the revisions.
          </Dialog.Description>
          <div className="grid gap-3 sm:grid-cols-2">
            <Side
              title="Yours, in this window"
              watts={watts(mine)}
              choose="Go on with mine"
              onChoose={() => onResolve('mine')}
            />
            <Side
              title={`The other, revision ${theirs.revision}`}
              watts={watts(theirs.document)}
              choose="Go on with the other"
              onChoose={() => onResolve('theirs')}
            />
          </div>
          <h3 className="mt-4 mb-1 text-sm text-muted">What yours changes in the other</h3>
          <ul className="list-disc pl-5 text-sm">
            {differences.length === 0 && <li>Nothing: they are the same.</li>}
            {differences.map((difference) => (
              <li key={difference}>{difference}</li>
            ))}
          </ul>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

function Side({
  title,
  watts,
  choose,
  onChoose,
}: {
  title: string
  watts: string
  choose: string
  onChoose: () => void
}) {
  return (
    <div className="rounded-lg border border-rule p-3">
      <h3 className="text-sm text-muted">{title}</h3>
      <p className="my-1 text-xl font-bold">{watts}</p>
      <p className="mb-3 text-xs text-muted">at the antenna on this channel</p>
      <button type="button" className="button w-full" onClick={onChoose}>
        {choose}
      </button>
    </div>
  )
}
