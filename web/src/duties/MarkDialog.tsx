import type { Duty, DutyMark } from '@saltline/contract'
import { useState } from 'react'
import { inTwoWeeks } from '../model/duties.ts'
import { act } from '../platform/act.ts'
import { enterMark } from '../platform/outbox/enter.ts'
import { Dialog } from '../ui/Dialog.tsx'
import { Problem } from '../ui/Problem.tsx'
import { DateField } from './DateField.tsx'

/** Says of a duty that it was done on a day, or is put off until one, with a reason. */
export function MarkDialog({
  duty,
  kind,
  today,
  onClose,
}: {
  duty: Duty
  kind: DutyMark['kind']
  today: string
  onClose: () => void
}) {
  const off = kind === 'put off'
  const [on, setOn] = useState(off ? inTwoWeeks(today) : today)
  const [reason, setReason] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const save = async () => {
    if (off && reason.trim() === '')
      return setProblem('Say why it is put off: that stays on record.')
    if (off && on <= today) return setProblem('Give a day that lies ahead.')
    if (!off && on > today) return setProblem('That day has not come yet.')
    const kept = await act(async () => {
      const { waits, undo } = await enterMark(duty, { kind, on, reason: reason.trim() })
      const done = `“${duty.title}” is ${off ? 'put off' : 'done'}`
      return { said: `${done}${waits ? '; it waits for the server' : ''}.`, undo }
    })
    if (kept) onClose()
  }
  return (
    <Dialog title={`${off ? 'Put off' : 'Done'}: ${duty.title}`} onClose={onClose}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault()
          void save()
        }}
      >
        <DateField label={off ? 'Until' : 'Done on'} value={on} onChange={setOn} />
        <label className="block text-xs text-muted">
          {off ? 'Why' : 'Note (may stay empty)'}
          <input
            className="field mt-0.5"
            maxLength={200}
            value={reason}
            onChange={({ target }) => setReason(target.value)}
          />
        </label>
        <Problem text={problem} />
        <button type="submit" className="button button-main">
          {off ? 'Put it off' : 'It is done'}
        </button>
      </form>
    </Dialog>
  )
}
